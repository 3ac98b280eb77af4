import { Link } from '@mui/material';
import type { Of } from '../../api/client';
import { P, Quiet } from '../../parts/layout';
import { say } from '../../words/words';

/** The page for whoever lives or works in the house: what is in use today. */
export function InUse({ job }: { job: Of<'JobView'> }) {
  return (
    <P around="s">
      <Link href={`/api/jobs/${job.id}/in-use.pdf`} target="_blank">
        {say('What is in use today, as a page to put up')}
      </Link>
      <Quiet block>{say('Everything else counts as live. It is no leave to open or to cut.')}</Quiet>
    </P>
  );
}
