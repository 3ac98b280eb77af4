import { styled } from '@mui/material/styles';
import { Link } from 'react-router';
import { useDangers } from '../api/days';
import { say } from '../words/words';

const Strip = styled('div')({
  border: '3px solid var(--brick)',
  background: 'var(--sheet)',
  padding: '7px 10px',
  marginBottom: 10,
  fontWeight: 600,
});

/** What people are at risk by now on any job of the company: first on the screens that are of no job. */
export function Dangers() {
  const list = useDangers().data ?? [];
  if (list.length === 0) return null;
  return (
    <Strip data-dangers role="alert">
      {list.map((j) => (
        <div key={j.id}>
          <Link to={`/jobs/${j.id}/second-fix`}>{j.ref}</Link> {say('Danger now: {{what}}', { what: j.danger })}
        </div>
      ))}
    </Strip>
  );
}
