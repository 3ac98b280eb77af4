import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { useTerms } from '../api/job';
import { useDrafts } from '../api/part';
import { kindOf } from '../api/partKinds';
import { membersOf, useKept, type Kept } from '../api/records';
import { moment, say } from '../words/words';
import { figure } from './figure';
import { List, Quiet, Row, Wrong } from './layout';
import { MendRecord } from './MendRecord';

const Keeps = styled('section')({ marginBottom: 10 });
const Numbered = styled('ol')({ margin: '4px 0' });

/** What a record that waits is about, as its sheet calls it. */
function about(job: Of<'JobView'>, { record }: Kept, kinds: Of<'Named'>[] = []): string {
  const r = membersOf(record);
  const kind = kinds.find((k) => k.id === record.kind)?.name ?? record.kind;
  const test = job.view.tests.rows.find((t) => t.id === r.subject && t.circuit === (r.circuit ?? ''));
  const task = job.view.tasks.find((t) => t.id === r.subject);
  const circuit = job.view.job?.circuits.find((c) => c.id === r.circuit)?.name;
  if (record.kind === 'reading') return [circuit, test?.title, shown(record)].filter(Boolean).join(' · ');
  if (record.kind === 'isolation')
    return [say('Isolation'), record.opens.map((o) => o.device).join(', '), r.lockTag].filter(Boolean).join(' · ');
  return [task?.title ?? kind, r.note].filter(Boolean).join(' · ');
}

/** What a reading that waits showed. */
export function shown(record: Kept['record']): string {
  const r = membersOf(record);
  if (r.answer) return r.answer.replaceAll('_', ' ');
  if (r.overRange) return say('over range');
  if (r.passed !== null && r.passed !== undefined) return r.passed ? say('yes') : say('no');
  if (r.value !== null && r.value !== undefined) return figure(r.value, r.unit);
  return r.couldNot ? say('could not test') : '';
}

/** A part by its name, on the sheet on which it is edited. */
function PartLink({ job, part }: { job: Of<'JobView'>; part: string }) {
  const kind = kindOf(useTerms().data?.parts, part);
  const id = part.slice(part.indexOf('/') + 1);
  const entries: { id: string; name: string }[] = [...(job.view.job?.circuits ?? []), ...(job.view.job?.rooms ?? [])];
  const name = kind?.list ? (entries.find((e) => e.id === id)?.name ?? id) : kind?.title;
  return <Link to={`/jobs/${job.id}/${kind?.sheet ?? 'survey'}`}>{name ?? part}</Link>;
}

/** One quiet line on what waits for a connection, with a list; what was refused stays until somebody has dealt with it. */
export function KeptRecords({ job }: { job: Of<'JobView'> }) {
  const { kept, drop, mend } = useKept(job.id);
  const kinds = useTerms().data?.records;
  const [mending, setMending] = useState('');
  const drafts = useDrafts(job.id);
  const [open, setOpen] = useState(false);
  const waits = kept.filter((k) => !k.refused);
  const refused = kept.filter((k) => k.refused);
  if (kept.length === 0 && drafts.length === 0) return null;
  return (
    <Keeps aria-label={say('Kept here')}>
      {waits.length > 0 && (
        <Row>
          <Quiet role="status" data-kept={waits.length}>
            {waits.length === 1
              ? say('1 record waits here for a connection: recorded, not judged yet.')
              : say('{{n}} records wait here for a connection: recorded, not judged yet.', { n: waits.length })}
          </Quiet>
          <Button size="small" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? say('Hide them') : say('Show them')}
          </Button>
        </Row>
      )}
      {open && (
        <Numbered>
          {waits.map((k) => (
            <li key={k.key}>
              {about(job, k, kinds)} <Quiet>{k.record.sent && moment(k.record.sent.occurredAt)}</Quiet>
            </li>
          ))}
        </Numbered>
      )}
      {drafts.length > 0 && (
        <List data-kept-drafts={drafts.length}>
          {drafts.map(({ part, draft }) => (
            <li key={part}>
              <PartLink job={job} part={part} />:{' '}
              {draft.refused ? (
                <b>{say('what you changed is not saved: {{why}}', { why: draft.refused })}</b>
              ) : (
                <Quiet>{say('what you changed waits here for a connection')}</Quiet>
              )}
            </li>
          ))}
        </List>
      )}
      {refused.map((k) => (
        <Wrong key={k.key}>
          <b>{about(job, k, kinds)}</b>. {say('Not recorded: {{why}}', { why: k.refused ?? '' })}{' '}
          <Quiet>{k.record.sent && moment(k.record.sent.occurredAt)}</Quiet>{' '}
          <Button size="small" onClick={() => setMending(mending === k.key ? '' : k.key)}>
            {say('Mend it')}
          </Button>{' '}
          <Button size="small" onClick={() => drop(k.key)}>
            {say('Discard it')}
          </Button>
          {mending === k.key && <MendRecord record={k.record} onSend={(r) => mend(k.key, r)} onCancel={() => setMending('')} />}
        </Wrong>
      ))}
    </Keeps>
  );
}
