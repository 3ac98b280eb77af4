import { Link } from '@mui/material';
import type { Of } from '../../api/client';
import { Details, Grow, P, Quiet, Row } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** What of the house is in use today, and the page of it for whoever lives or works there. */
export function InUse({ job }: { job: Of<'JobView'> }) {
  const { use } = job.view.tests;
  return (
    <>
      <Details data-in-use={use.filter((u) => u.inUse).length}>
        <summary>{say('In use today: {{n}} of {{all}}', { n: use.filter((u) => u.inUse).length, all: use.length })}</summary>
        {use.map((u) => (
          <Row key={`${u.circuit}/${u.name}/${u.where}`} pad="xs" ruled>
            <Mark verdict={u.inUse ? 'pass' : 'unknown'} />
            <Grow from={200}>
              <b>{u.name}</b>
              {u.where && <Quiet> · {u.where}</Quiet>}
              <Quiet block>{u.says}</Quiet>
            </Grow>
          </Row>
        ))}
      </Details>
      <P around="s">
        <Link href={`/api/jobs/${job.id}/in-use.pdf`} target="_blank">
          {say('What is in use today, as a page to put up')}
        </Link>
        <Quiet block>{say('Everything else counts as live. It is no leave to open or to cut.')}</Quiet>
      </P>
    </>
  );
}
