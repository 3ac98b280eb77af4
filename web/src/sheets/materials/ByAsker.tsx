import type { Of } from '../../api/client';
import { figure } from '../../parts/figure';
import { Quiet, Scroll, SheetTable } from '../../parts/layout';
import { say } from '../../words/words';

type Ask = Of<'TakeAsk'> & { line: Of<'TakeLine'> };

/** The same list by whom it is for: each circuit, room, board, enclosure and run with what it takes. */
export function ByAsker({ lines }: { lines: Of<'TakeLine'>[] }) {
  const by = new Map<string, Ask[]>();
  for (const line of lines)
    for (const a of line.asks) {
      const name = a.for || say('The job');
      by.set(name, [...(by.get(name) ?? []), { ...a, line }]);
    }
  return (
    <Scroll>
      <SheetTable aria-label={say('By circuit, room and place')} data-cards>
        <thead>
          <tr>
            <th scope="col">{say('Product')}</th>
            <th scope="col" className="num">
              {say('Needed')}
            </th>
            <th scope="col">{say('Rule')}</th>
          </tr>
        </thead>
        {[...by].map(([name, asks]) => (
          <tbody key={name}>
            <tr>
              <th scope="rowgroup" colSpan={3}>
                {name}
              </th>
            </tr>
            {asks.map((a) => (
              <tr key={a.key}>
                <td data-whole>{a.line.name}</td>
                <td className="num" data-label={say('Needed')}>
                  {figure(a.need, a.line.unit)}
                </td>
                <td data-whole>
                  <Quiet>{a.rule}</Quiet>
                </td>
              </tr>
            ))}
          </tbody>
        ))}
      </SheetTable>
    </Scroll>
  );
}
