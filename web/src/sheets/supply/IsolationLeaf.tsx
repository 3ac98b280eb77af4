import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { useSupply } from '../../api/job';
import { usePart } from '../../api/part';
import { useFrame } from '../../frame/Shell';
import { NumberBox, TextBox } from '../../parts/fields';
import { money } from '../../parts/figure';
import { Caution, Fields, Grow, Heading, Quiet, Row, Section } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { DateBox } from '../../parts/DateBox';

const Dates = styled('span')({ textAlign: 'right', minWidth: 150 });

/** The lawful ways to make the work dead, with charge, lead time and what each asks for. For the office, weeks ahead. */
export function IsolationLeaf({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const part = usePart(job, 'outage', j.outage);
  const { data: sheet, isPending } = useSupply(job.id);
  const { me } = useFrame();
  const chosen = sheet?.routes.find((r) => r.chosen);
  if (isPending) return <p>{say('Computing …')}</p>;
  return (
    <>
      <Caution>
        {say(
          'Isolation comes first and takes weeks: ask before anything else is booked. Lead times below are settings of ' +
            'low confidence until the operator has said its own.',
        )}
      </Caution>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('Ways to isolate the intake')}</Heading>
        {sheet?.routes.map((r) => (
          <Row
            key={r.id}
            data-route={r.id}
            data-offered={r.offered}
            style={{
              borderBottom: '1px solid var(--rule)',
              borderLeft: `4px solid ${r.chosen ? 'var(--copper)' : 'transparent'}`,
              padding: '7px 0 7px 8px',
              alignItems: 'start',
            }}
          >
            <Mark verdict={r.offered ? 'pass' : 'fail'} label={r.offered ? 'lawful' : say('not offered')} />
            <Grow from={320}>
              <b>{r.title}</b>
              <br />
              {r.why}
              {r.offered && (
                <>
                  <br />
                  <Quiet>
                    {say('Asks for: {{asks}}.', { asks: r.asks.join(', ') })}
                    {r.visits > 0 &&
                      say(' {{visits}} visit{{x}} by {{x2}}.', {
                        visits: r.visits,
                        x: r.visits > 1 ? 's' : '',
                        x2: say('the operator'),
                      })}{' '}
                    {r.leadSays.charAt(0).toUpperCase() + r.leadSays.slice(1)}.
                  </Quiet>
                </>
              )}
            </Grow>
            {r.offered && (
              <Dates>
                {r.charge === null ? <Quiet>{say('charge not known')}</Quiet> : money(r.charge, me.currency)}
                <br />
                {r.leadDays > 0 ? say('{{leadDays}} days', { leadDays: r.leadDays }) : say('at any time')}
                <br />
                <b>
                  {say('earliest')} <span data-earliest={r.id}>{r.earliest}</span>
                </b>
              </Dates>
            )}
            {r.offered && (
              <Button
                disabled={part.frozen}
                variant={r.chosen ? 'contained' : 'outlined'}
                aria-pressed={r.chosen}
                onClick={() => part.save('route', r.chosen ? '' : r.id)}
              >
                {r.chosen ? say('Chosen') : say('Choose')}
              </Button>
            )}
          </Row>
        ))}
      </Section>
      <Section>
        <Heading>{say('What was asked and said{{x}}', { x: chosen ? `: ${chosen.title}` : '' })}</Heading>
        <Fields>
          <DateBox part={part} path="askedOn" label={say('Asked on')} />
          <NumberBox part={part} path="leadDays" label={say('Lead time the operator said')} unit="days" optional />
          <NumberBox part={part} path="charge" label={say('Charge the operator said')} unit={me.currency} optional />
          <DateBox part={part} path="bookedOn" label={say('Booked for')} help={say('replaces asked + lead time')} />
        </Fields>
        {chosen && part.value.bookedFor && part.value.bookedFor !== chosen.id && (
          <Caution data-booked-for={part.value.bookedFor}>
            {say('The day was booked for another way: {{way}}.', {
              way: sheet?.routes.find((r) => r.id === part.value.bookedFor)?.title ?? part.value.bookedFor,
            })}{' '}
            <Button disabled={part.frozen} onClick={() => part.save('bookedFor', chosen.id)}>
              {say('The operator confirmed it for this way')}
            </Button>
          </Caution>
        )}
        <Heading>{say('A person the operator has authorised by name')}</Heading>
        <Fields>
          <TextBox part={part} path="authorised.name" label={say('Name')} />
          <TextBox part={part} path="authorised.number" label={say('Number of the authorisation')} />
          <DateBox part={part} path="authorised.until" label={say('Until')} />
        </Fields>
      </Section>
    </>
  );
}
