import { Link } from 'react-router';
import type { Of } from '../../api/client';
import { sheetName } from '../../frame/sheets';
import { Details, List, Td } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** One thing that a signature rests on: ready, or what is open of it and for whom; where that is a lot, with a count and folded. */
export function ReadyRow({ job, items }: { job: string; items: Of<'ReadyItem'>[] }) {
  const [i] = items;
  return (
    <tr>
      <Td width={24}>
        <Mark verdict={i.ready ? 'pass' : 'unknown'} label={i.ready ? 'ready' : 'missing'} />
      </Td>
      <td>
        {i.title}
        {items.length === 1 && i.summary && <>: {i.summary}</>}
        {items.length > 1 && (
          <Details data-gathered={items.length}>
            <summary>{say('{{n}} open', { n: items.length })}</summary>
            <List>
              {items.map((x) => (
                <li key={x.summary}>{x.summary}</li>
              ))}
            </List>
          </Details>
        )}
      </td>
      <td>{!i.ready && <>{say('open: {{who}}', { who: [...new Set(items.flatMap((x) => x.who.split(', ')))].join(', ') })}</>}</td>
      <td>{!i.ready && i.sheet !== 'handover' && <Link to={`/jobs/${job}/${i.sheet}`}>{sheetName(i.sheet)}</Link>}</td>
    </tr>
  );
}
