import type { ReactNode } from 'react';
import type { Of } from '../../api/client';
import { Bad, Details, Quiet } from '../../parts/layout';
import { say } from '../../words/words';

/** How many tests stand in one list before they are put together by circuit. */
const mostAtOnce = 12;

interface TestGroupsProps {
  rows: Of<'TestRow'>[];
  circuits: Of<'Circuit'>[];
  current?: Of<'TestRow'>;
  lines: (rows: Of<'TestRow'>[]) => ReactNode;
}

/** Tests by circuit, each folded under how many of them are read; the one that is read now stands open. */
export function TestGroups({ rows, circuits, current, lines }: TestGroupsProps) {
  if (rows.length <= mostAtOnce) return lines(rows);
  const groups = [...new Set(rows.map((r) => r.circuit))];
  return groups.map((id) => {
    const of = rows.filter((r) => r.circuit === id);
    const done = of.filter((r) => r.reading).length;
    const failed = of.filter((r) => r.verdict === 'fail').length;
    return (
      <Details key={id} data-test-group={id || 'installation'} open={!!current && of.includes(current)}>
        <summary>
          {circuits.find((c) => c.id === id)?.name ?? say('The installation')}{' '}
          <Quiet>
            {done === of.length ? say('all {{n}} recorded', { n: of.length }) : say('{{done}} of {{n}}', { done, n: of.length })}
          </Quiet>
          {failed > 0 && <Bad> {say('{{n}} failed', { n: failed })}</Bad>}
        </summary>
        {lines(of)}
      </Details>
    );
  });
}
