import { styled } from '@mui/material/styles';
import { Link } from 'react-router';
import { Button } from '@mui/material';
import type { Of } from '../api/client';
import { useRecord } from '../api/records';
import { useFrame } from '../frame/Shell';
import { Row } from './layout';
import { madeBy } from './mine';
import { moment, say } from '../words/words';

const Strip = styled('div')({
  border: '2px solid var(--brick)',
  background: 'var(--wash)',
  padding: '5px 10px',
  marginBottom: 10,
  fontWeight: 600,
});

/** From this hour on whoever has a lock in place is asked whether it is off. */
const dayEnds = 15;

/** Whether a lock is asked about: it is of an earlier day, or the day ends. */
const overdue = (l: Of<'Record'>, now: Date) => new Date(l.at).toDateString() !== now.toDateString() || now.getHours() >= dayEnds;

/** Whose locks hang on the job, on each of its sheets; at the end of the day one's own are asked about. */
export function LockStrip({ job }: { job: Of<'JobView'> }) {
  const { locks, isolations, removed } = job.view.tests;
  const record = useRecord(job.id);
  const { me } = useFrame();
  if (locks.length === 0 && removed.length === 0) return null;
  const opened = (l: Of<'Record'>) => isolations.find((i) => i.record.id === l.id)?.opened.join(', ');
  return (
    <Strip data-lock-strip role="status">
      {removed.map((r) => (
        <Row key={r.id} data-removed={r.by}>
          {say('{{by}} took your lock off, {{at}}: {{note}}. Reached: {{reached}}. Walked: {{walked}}.', {
            by: r.by,
            at: moment(r.at),
            note: r.note,
            reached: r.reached ?? '',
            walked: r.walked ?? '',
          })}
          <Button disabled={record.isPending} onClick={() => record.mutate({ kind: 'lock-told', subject: r.id, note: '' })}>
            {say('I know')}
          </Button>
        </Row>
      ))}
      {locks
        .filter((l) => madeBy(l, me) && overdue(l, new Date()))
        .map((l) => (
          <Row key={l.id} data-lock-asked={l.id}>
            {say('Your lock of {{at}} is still in place: {{tag}}. Is it off?', { at: moment(l.at), tag: l.lockTag })}
            <Button disabled={record.isPending} onClick={() => record.mutate({ kind: 'lock-off', subject: l.id })}>
              {say('It is off')}
            </Button>
          </Row>
        ))}
      {locks.length > 0 && say('Locks in place: {{n}}.', { n: locks.length })}{' '}
      {locks.map((l) => [l.by, l.lockTag, opened(l), moment(l.at)].filter(Boolean).join(', ')).join(' · ')}{' '}
      <Link to={`/jobs/${job.id}/test`}>{say('All locks')}</Link>
    </Strip>
  );
}
