import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCase } from '../../api/job';
import { useRecord } from '../../api/records';
import { useFrame } from '../../frame/Shell';
import { figure } from '../../parts/figure';
import { Grow, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { FollowUp } from './FollowUp';
import { Witnessed, unwitnessed, witnessed } from './Witnessed';

const Entry = styled('div')({
  borderBottom: '1px solid var(--rule)',
  padding: '8px 0',
  display: 'grid',
  gridTemplateColumns: '22px minmax(0, 1fr)',
  gap: 8,
});
const Thumb = styled('img')({ height: 96, border: '1px solid var(--rule2)' });

const mark = { now: 'fail', soon: 'caution', look: 'unknown', advised: 'pass' } as const;

export const priceRange = (p: Of<'PriceRange'> | null | undefined, currency: string) =>
  !p
    ? say('to be priced')
    : p.high > p.low
      ? say('{{currency}} {{low}} to {{high}}', { currency, low: figure(p.low), high: figure(p.high) })
      : `${currency} ${figure(p.low)}`;

/** The case for the work as a client reads it over one's shoulder: what was found, what it means, how it is known, what mends it. */
export function CaseForWork({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const sheet = useCase(job.id);
  const { me } = useFrame();
  const c = sheet.data?.case;
  if (!c) return <p>{sheet.error ? sheet.error.message : say('Gathering the findings …')}</p>;
  return (
    <>
      <Row below="m">
        <Grow>
          {c.count === 0
            ? say('No findings yet: note them under Existing installation, or take up what is suggested there.')
            : say('{{count}} findings for {{customer}}, the gravest first. Nothing is shown graver than its evidence.', {
                count: c.count,
                customer: j.site.customer,
              })}
        </Grow>
        <Button component="a" href={`/api/jobs/${job.id}/case.pdf`} variant="contained" disabled={c.count === 0}>
          {say('The page for the client (PDF)')}
        </Button>
      </Row>
      {c.sections.map((s) => (
        <Section key={s.urgency} data-section={s.urgency}>
          <Heading aside={s.summary}>{s.title}</Heading>
          {s.findings.map((f) => (
            <FindingRow key={f.id} job={job} f={f} currency={me.currency} />
          ))}
        </Section>
      ))}
      {c.price && (
        <p>
          {say('Together, without what was declined:')} <b>{priceRange(c.price, me.currency)}</b>
          {say(', without tax.')}
          {c.unpriced > 0 && say(' {{unpriced}} are still to be priced.', { unpriced: c.unpriced })}
        </p>
      )}
    </>
  );
}

function FindingRow({ job, f, currency }: { job: Of<'JobView'>; f: Of<'Finding'>; currency: string }) {
  const record = useRecord(job.id);
  const [deciding, setDeciding] = useState('');
  const [person, setPerson] = useState(job.view.job?.site.customer ?? '');
  const [note, setNote] = useState('');
  const [seal, setSeal] = useState(unwitnessed);
  return (
    <Entry data-finding={f.kind}>
      <Mark verdict={mark[f.urgency as keyof typeof mark]} />
      <div>
        <Row align="baseline">
          <Grow as="b" from={220}>
            {f.title} {f.where && <Quiet>· {f.where}</Quiet>}
          </Grow>
          <b>{priceRange(f.price, currency)}</b>
        </Row>
        {f.seen !== f.title && <P around="xs">{f.seen}</P>}
        <P around="xs">{f.risk}</P>
        <P around="xs">
          <Quiet>
            {f.evidence}, {f.by}, {f.at} · {f.class}. {f.softened}
          </Quiet>
        </P>
        <P around="xs">
          {say('Remedial action: {{mend}}.', { mend: f.mend })}{' '}
          {f.covered && <Quiet>{say('In the price of {{what}}, which the job brings.', { what: f.covered })}</Quiet>}
          {f.shares && <Quiet>{say('In the price of “{{shares}}”: one piece of work rectifies both.', { shares: f.shares })}</Quiet>}
        </P>
        {f.reported && <P around="xs">{say('Reported to the operator: {{reported}}', { reported: f.reported })}</P>}
        {f.notice && <P around="xs">{say('Notice of a dangerous condition: {{notice}}', { notice: f.notice })}</P>}
        {f.told && <P around="xs">{say('Told: {{told}}', { told: f.told })}</P>}
        {f.safe && <P around="xs">{say('Made safe: {{safe}}', { safe: f.safe })}</P>}
        {f.mended && <P around="xs">{say('Rectified: {{mended}}', { mended: f.mended })}</P>}
        {f.photos.length > 0 && (
          <Row around="xs">
            {f.photos.map((hash) => (
              <Thumb key={hash} src={`/api/jobs/${job.id}/photos/${hash}`} alt={say('Photo of: {{title}}', { title: f.title })} />
            ))}
          </Row>
        )}
        <Row className="no-print">
          {f.decision ? (
            <span>
              <Mark verdict={f.decision === 'accepted' ? 'pass' : 'caution'} size={13} /> {f.decision} · {f.decided}
              {f.reason && `: ${f.reason}`}
            </span>
          ) : (
            <Quiet>
              {f.operator ? say('The operator’s to rectify: it is reported, and not for the client to decide.') : say('not decided')}
            </Quiet>
          )}
          {(f.operator ? [] : ['accepted', 'later', 'declined']).map((d) => (
            <Button key={d} disabled={job.view.frozen} aria-pressed={deciding === d} onClick={() => setDeciding(deciding === d ? '' : d)}>
              {{ accepted: say('Accepts'), later: say('Later'), declined: say('Declines') }[d]}
            </Button>
          ))}
        </Row>
        <FollowUp job={job} f={f} />
        {deciding && (
          <Row above="s" align="end">
            <TextField sx={{ flex: '1 1 160px' }} label={say('Who decided')} value={person} onChange={(e) => setPerson(e.target.value)} />
            <TextField
              sx={{ flex: '2 1 200px' }}
              slotProps={{ htmlInput: { name: 'why' } }}
              label={say('Reason, in their words')}
              value={note}
              onChange={(e) => setNote(e.target.value)}
            />
            {deciding === 'declined' && <Witnessed by={person} value={seal} onChange={setSeal} />}
            <Button
              variant="contained"
              disabled={!person.trim() || (deciding === 'declined' && !(note.trim() && witnessed(seal)))}
              onClick={() =>
                record.mutate(
                  { kind: 'decision', subject: f.id, path: deciding, person, note, ...(deciding === 'declined' && seal) },
                  { onSuccess: () => setDeciding('') },
                )
              }
            >
              {say('Save the decision')}
            </Button>
          </Row>
        )}
        {record.error && <Wrong>{record.error.message}</Wrong>}
      </div>
    </Entry>
  );
}
