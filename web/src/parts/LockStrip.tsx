import { styled } from '@mui/material/styles';
import { Link } from 'react-router';
import type { Of } from '../api/client';
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
  const { locks, isolations } = job.view.tests;
  if (locks.length === 0) return null;
  const opened = (l: Of<'Record'>) => isolations.find((i) => i.record.id === l.id)?.opened.join(', ');
  return (
    <Strip data-lock-strip role="status">
      {say('Locks in place: {{n}}.', { n: locks.length })}{' '}
      {locks.map((l) => [l.by, l.lockTag, opened(l), moment(l.at)].filter(Boolean).join(', ')).join(' · ')}{' '}
      <Link to={`/jobs/${job.id}/test`}>{say('All locks')}</Link>
    </Strip>
  );
}
