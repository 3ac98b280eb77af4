import { styled } from '@mui/material/styles';
import { Link } from 'react-router';
import { Button } from '@mui/material';
import type { Of } from '../api/client';
import { useRecord } from '../api/records';
import { useFrame } from '../frame/Shell';
import { Row } from './layout';
import { say } from '../words/words';

const Strip = styled('div')({
  border: '3px solid var(--brick)',
  background: 'var(--sheet)',
  padding: '7px 10px',
  marginBottom: 10,
  fontWeight: 600,
});

/** What people are at risk by now, first on every sheet of the job for everyone; whoever supervises says that they know. */
export function DangerStrip({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const { me } = useFrame();
  if (job.view.dangers.length === 0) return null;
  return (
    <Strip data-danger-strip role="alert">
      {job.view.dangers.map((d) => (
        <Row key={d.id}>
          {say('Danger now: {{what}}', { what: [d.title, d.seen].filter(Boolean).join('. ') })} · {d.by}, {d.at}
          {job.view.supervises && !d.told && (
            <Button
              disabled={record.isPending}
              onClick={() =>
                record.mutate({ kind: 'finding-step', subject: d.id, path: 'told', person: me.name, note: say('read on the screen') })
              }
            >
              {say('I know')}
            </Button>
          )}
        </Row>
      ))}
      <Link to={`/jobs/${job.id}/second-fix`}>{say('Snag list')}</Link> ·{' '}
      <Link to={`/jobs/${job.id}/survey?leaf=existing`}>{say('Findings')}</Link>
    </Strip>
  );
}
