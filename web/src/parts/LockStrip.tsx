import { styled } from '@mui/material/styles';
import { Link } from 'react-router';
import { Button } from '@mui/material';
import type { Of } from '../api/client';
import { useRecord } from '../api/records';
import { Row } from './layout';
import { moment, say } from '../words/words';

const Strip = styled('div')({
  border: '2px solid var(--brick)',
  background: 'var(--wash)',
  padding: '5px 10px',
  marginBottom: 10,
  fontWeight: 600,
});

/** Whose locks hang on the job, on each of its sheets. */
export function LockStrip({ job }: { job: Of<'JobView'> }) {
  const { locks, isolations, removed } = job.view.tests;
  const record = useRecord(job.id);
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
      {locks.length > 0 && say('Locks in place: {{n}}.', { n: locks.length })}{' '}
      {locks.map((l) => [l.by, l.lockTag, opened(l), moment(l.at)].filter(Boolean).join(', ')).join(' · ')}{' '}
      <Link to={`/jobs/${job.id}/test`}>{say('All locks')}</Link>
    </Strip>
  );
}
