import { say } from '../../words/words';
import { useDark, useCircuits, useTerms } from '../../api/job';
import { useTake } from '../../api/take';
import { Leaves } from '../../parts/Leaves';
import { NotYet, Wrong } from '../../parts/layout';
import { SheetHead } from '../../parts/SheetHead';
import type { SheetProps } from '../props';
import { AddBoard } from './AddBoard';
import { OneBoard } from './OneBoard';
import { boardsOf, freeWays, partOfBoard } from './ways';
import { WhatGoesDark } from './WhatGoesDark';

/** The boards of a job: their ways, which are taken, free or open, and what goes dark by each device. */
export function BoardSheet({ job, j, open, opened }: SheetProps) {
  const terms = useTerms().data;
  const report = useCircuits(job.id).data?.report;
  const dark = useDark(job.id).data;
  const { take, wrong } = useTake(job);
  const boards = boardsOf(j);
  const ways = boards.reduce((n, b) => n + b.ways.length, 0);
  const free = boards.reduce((n, b) => n + freeWays(j, b, terms?.columns).length, 0);
  const leaves = boards.map((b) => ({
    id: b.id || 'main',
    name: b.name || say('the board'),
    show: () => <OneBoard key={partOfBoard(b)} job={job} j={j} board={b} report={report} onOpen={(c) => open(c, take)} opened={opened} />,
  }));
  return (
    <>
      <SheetHead
        title={boards.length > 1 ? say('Boards') : say('Board')}
        job={job.id}
        summary={
          ways
            ? say('{{ways}} {{x}}, {{free}} free.', { ways, x: say('Ways').toLowerCase(), free })
            : say('The ways are not yet written down.')
        }
        tables={[['board', say('Ways')]]}
      />
      {boards.length > 1 ? <Leaves leaves={leaves} label={say('Boards')} /> : leaves[0].show()}
      <AddBoard job={job} j={j} />
      {dark && dark.devices.length > 0 && <WhatGoesDark dark={dark} j={j} frozen={job.view.frozen} take={take} />}
      {wrong && <Wrong>{wrong}</Wrong>}
      <NotYet>
        {say(
          'order of the devices by current or by heat. A new circuit takes its board, its way or a shared device on the Circuits sheet.',
        )}
      </NotYet>
    </>
  );
}
