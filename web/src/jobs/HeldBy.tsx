import { styled } from '@mui/material/styles';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { sheetName } from '../frame/sheets';
import { Bad, Quiet } from '../parts/layout';
import { say } from '../words/words';

const Wait = styled('div')({ '& + &': { marginTop: 2 }, overflowWrap: 'anywhere' });

// How many sheets are said with what holds them; the others with their number alone.
const said = 3;

/** What holds a job: the first three sheets with the first thing that each waits for, the others by number. */
export function HeldBy({ job: j }: { job: Of<'JobRow'> }) {
  const rest = j.waits.slice(said);
  if (j.waits.length === 0) return <>{j.trouble ? <Bad>{j.trouble}</Bad> : j.hold || say('nothing')}</>;
  return (
    <>
      {j.trouble && <Bad style={{ display: 'block' }}>{j.trouble}</Bad>}
      {j.waits.slice(0, said).map((w) => (
        <Wait key={w.sheet} data-wait={w.sheet}>
          <Link to={`/jobs/${j.id}/${w.sheet}`}>{sheetName(w.sheet)}</Link>
          {w.count > 1 && <Quiet> {w.count}</Quiet>}: {w.first}
        </Wait>
      ))}
      {rest.length > 0 && <Quiet>{rest.map((w) => `${sheetName(w.sheet)} ${w.count}`).join(' · ')}</Quiet>}
    </>
  );
}
