import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { Trouble, type Of } from '../../api/client';
import { askForecast, useSupply } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { NumberBox, TextBox } from '../../parts/fields';
import { figure } from '../../parts/figure';
import {
  Caution,
  Details,
  Drawing,
  Fields,
  Fixed,
  Grow,
  Heading,
  P,
  Quiet,
  Row,
  Scroll,
  Section,
  SheetTable,
  Td,
  Th,
  Wrong,
} from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { DateBox } from '../../parts/DateBox';
import { BeforeTheCut } from './BeforeTheCut';

const Clock = styled('b')({ fontSize: '1.5em' });
const Running = styled(Section)({ border: '1px solid var(--ink)', padding: '10px 12px' });

/**
 * The day on which the supply goes off: earliest day and why, what must be ready, hour by hour, and how it
 * goes. For the office before, at the board on the day.
 */
export function OutageLeaf({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const part = usePart(job, 'outage', j.outage);
  const plan = useSupply(job.id).data?.outage;
  if (!plan) return <p>{say('Planning …')}</p>;
  return (
    <>
      {plan.running && <RunningClock plan={plan} />}
      {plan.off && (
        <Caution data-off>
          <b>{plan.off}</b>
        </Caution>
      )}
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('The day')}</Heading>
        <P data-earliest-day={plan.earliest} above="none" below="s">
          {say('Earliest day')} <b>{plan.earliest}</b>. {plan.why}
        </P>
        <Fields>
          <DateBox part={part} path="day" label={say('Day of the outage')} />
          <TextField
            type="time"
            label={say('Starts at')}
            value={part.value.start}
            disabled={part.frozen}
            sx={{ maxWidth: 160 }}
            onChange={(e) => part.set('start', e.target.value)}
            onBlur={part.commit}
            slotProps={{ htmlInput: { 'data-path': 'start' } }}
          />
          <NumberBox part={part} path="crew" label={say('People on the day')} />
          <NumberBox part={part} path="latitude" label={say('Latitude, north positive')} unit="°" optional />
          <NumberBox part={part} path="longitude" label={say('Longitude, east positive')} unit="°" optional />
        </Fields>
        {plan.causes.length > 0 && (
          <Details open={plan.causes.length < 5}>
            <summary>{say('What the day depends on · {{causes}}', { causes: plan.causes.length })}</summary>
            {plan.causes.map((c, i) => (
              <Row key={i} data-cause={c.what} pad="xs">
                <Mark verdict={c.date ? (c.holds ? 'caution' : 'pass') : 'unknown'} size={13} />
                <Fixed least={100}>{c.date || say('not recorded')}</Fixed>
                <Grow>
                  {c.summary} {c.holds && <b>{say('· holds the day')}</b>}
                </Grow>
              </Row>
            ))}
            <Quiet>
              {say('Delivery days are noted on the')} <Link to={`/jobs/${job.id}/materials`}>{say('Materials')}</Link> {say('sheet.')}
            </Quiet>
          </Details>
        )}
      </Section>
      <BeforeTheCut job={job} part={part} plan={plan} />
      <Weather part={part} job={job} plan={plan} />
      <Section>
        <Heading
          aside={
            plan.steps.length > 0 &&
            say('off {{offAt}}, on {{onAt}}: {{darkH}} without supply', {
              offAt: plan.offAt,
              onAt: plan.onAt,
              darkH: figure(plan.darkH, 'h'),
            })
          }
        >
          {say('Hour by hour')}
        </Heading>
        {plan.steps.length === 0 ? (
          <p>{say('No task of this job is done under isolation yet: circuits, or new enclosures in the supply arrangement, make them.')}</p>
        ) : (
          <>
            {plan.turn && (
              <P above="none" below="s">
                {plan.turn}
              </P>
            )}
            <Hours plan={plan} />
          </>
        )}
      </Section>
    </>
  );
}

/** On the day: how fact stands to plan, and what to drop first. */
function RunningClock({ plan }: { plan: Of<'OutagePlan'> }) {
  const r = plan.running;
  if (!r) return null;
  return (
    <Running data-running>
      <Row align="baseline">
        <Clock>{r.now}</Clock>
        <span>
          {say('{{summary}} {{next}} Supply back at about', {
            summary: r.summary,
            next: r.next && say('Next: {{next}}.', { next: r.next }),
          })}{' '}
          <b>{r.backOn}</b>.
        </span>
      </Row>
      {r.beyond && <Caution>{say('Beyond the point of turning back: going on is quicker than going back.')}</Caution>}
      {r.drop.length > 0 && (
        <P around="s">
          {say('Drop first: {{drop}}.', { drop: r.drop.join('; ') })}{' '}
          <Quiet>{say('The house has been without it so far; it can be done another day.')}</Quiet>
        </P>
      )}
    </Running>
  );
}

function Weather({ part, job, plan }: { part: Part<Of<'Outage'>>; job: Of<'JobView'>; plan: Of<'OutagePlan'> }) {
  const [wrong, setWrong] = useState('');
  const ask = () =>
    askForecast(job.id).then(
      (w) => {
        setWrong('');
        part.save('weather', w);
      },
      (e) => setWrong(e instanceof Trouble ? (e.problem.fields?.[0]?.accept ?? e.message) : String(e)),
    );
  return (
    <Section>
      <Heading>{say('Weather and daylight')}</Heading>
      <Fields>
        <NumberBox part={part} path="weather.rainMM" label={say('Rain')} unit="mm" optional />
        <NumberBox part={part} path="weather.windMS" label={say('Wind')} unit="m/s" optional />
        <NumberBox part={part} path="weather.tempC" label={say('Temperature')} unit="°C" optional />
        <TextBox part={part} path="weather.source" label={say('Who says so')} />
      </Fields>
      <Row above="s">
        <Button disabled={part.frozen} onClick={() => void ask()}>
          {say('Ask the simulated forecast')}
        </Button>
        <span>{plan.sun || <Quiet>{say('○ Daylight: needs a day and a place.')}</Quiet>}</span>
      </Row>
      {wrong && <Wrong>{wrong}</Wrong>}
      {plan.weather.map((w) => (
        <Caution key={w}>{w}</Caution>
      ))}
    </Section>
  );
}

const lane = 22;

/** The steps of the day over the hours, drawn and as a table: what is done in the dark, and the point of no return. */
function Hours({ plan }: { plan: Of<'OutagePlan'> }) {
  const end = Math.max(...plan.steps.map((s) => s.to), 1);
  const width = 560;
  const x = (h: number) => (h / end) * width;
  const turn = plan.steps.find((s) => s.id === plan.noReturn);
  return (
    <Scroll>
      <SheetTable aria-label={say('Steps of the day')} data-cards>
        <thead>
          <tr>
            <Th width={20} aria-label={say('Done')} />
            <Th scope="col" width={120}>
              {say('Clock')}
            </Th>
            <th scope="col">{say('Step')}</th>
            <Th scope="col" className="num" width={60}>
              {say('People')}
            </Th>
            <Th scope="col" className="hours" width={300}>
              {say('Hours')}
            </Th>
            <Th scope="col" className="num" width={120}>
              {say('Back / on')}
            </Th>
          </tr>
        </thead>
        <tbody>
          {plan.steps.map((s) => (
            <tr key={s.id} data-step={s.id}>
              <td>
                <Mark verdict={s.done ? 'pass' : 'unknown'} label={s.done ? 'done' : say('to do')} size={14} />
              </td>
              <Td nowrap>{s.clock}</Td>
              <td>
                {s.title} {s.drop && <Quiet>{say('· may wait')}</Quiet>}
                {s.lateH !== null && s.lateH !== 0 && (
                  <Quiet>
                    {' '}
                    · {figure(Math.abs(s.lateH), 'h')} {s.lateH > 0 ? 'late' : 'early'}
                  </Quiet>
                )}
                {s.caution && (
                  <>
                    <br />
                    <Quiet>{s.caution}</Quiet>
                  </>
                )}
              </td>
              <td className="num" data-label={say('People')}>
                {s.crew}
              </td>
              <td data-whole>
                <Drawing width="100%" height={lane} viewBox={`0 0 ${width} ${lane}`} preserveAspectRatio="none" aria-hidden least={140}>
                  <line x1={0} y1={lane / 2} x2={width} y2={lane / 2} stroke="var(--rule)" />
                  <rect
                    x={x(s.from)}
                    y={4}
                    width={Math.max(3, x(s.to) - x(s.from))}
                    height={lane - 8}
                    fill={s.dark ? 'var(--ink)' : 'var(--verdigris)'}
                    opacity={s.done ? 0.45 : 1}
                  />
                  {turn && <line x1={x(turn.to)} y1={0} x2={x(turn.to)} y2={lane} stroke="var(--copper)" strokeWidth={3} />}
                </Drawing>
              </td>
              <td className="num" data-label={s.dark ? say('Back / on') : undefined}>
                {s.dark ? `${figure(s.backH, 'h')} / ${figure(s.onH, 'h')}` : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </SheetTable>
      <Quiet>
        {say('Dark bars: the house is without supply. The copper line: the point of no return. Ticks are made on the Second fix sheet.')}
      </Quiet>
    </Scroll>
  );
}
