import { Link } from 'react-router';
import type { Of } from '../../api/client';
import { sheetName } from '../../frame/sheets';
import { Details, Item, List, P } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** What permission to energise waits for: the first at once, all on demand, each with the sheet on which it is mended, where that is not this one. */
export function WaitsList({ job, waits }: { job: string; waits: Of<'EnergiseWaits'>[] }) {
  const [first] = waits;
  if (!first) return null;
  const line = (x: Of<'EnergiseWaits'>) => (
    <>
      {x.why} {x.sheet !== 'test' && <Link to={`/jobs/${job}/${x.sheet}`}>{say('{{sheet}} sheet', { sheet: sheetName(x.sheet) })}</Link>}
    </>
  );
  return (
    <>
      <P around="xs" data-waits-first>
        <Mark verdict="caution" /> {line(first)}
      </P>
      {waits.length > 1 && (
        <Details data-waits={waits.length}>
          <summary>{say('All {{n}} that it waits for', { n: waits.length })}</summary>
          <List>
            {waits.map((x) => (
              <Item key={x.why}>{line(x)}</Item>
            ))}
          </List>
        </Details>
      )}
    </>
  );
}
