import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useSheetAsks, useTerms } from '../../api/job';
import { usePart } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { EditTable } from '../../parts/EditTable';
import { Heading, Section } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import { AddWays } from './AddWays';
import { CircuitsOfWays } from './CircuitsOfWays';
import { BoardFields } from './BoardFields';
import { Face } from './Face';
import { LegsDrawing } from './LegsDrawing';
import { LiveBand } from './LiveBand';
import { PanelFace } from './PanelFace';
import { RemoveBoard } from './RemoveBoard';
import { SharedDevices } from './SharedDevices';
import { circuitsOn, following, leaversOn, partOfBoard } from './ways';

interface Props {
  job: Of<'JobView'>;
  j: Of<'Job'>;
  board: Of<'Board'>;
  report?: Of<'Report'>;
  onOpen: (c: Of<'Check'>) => void;
  opened?: string;
}

/** One board of a job: as found or put in, its face, its checks and its ways. For the hall, in front of it. */
export function OneBoard({ job, j, board: server, report, onOpen, opened }: Props) {
  const terms = useTerms().data;
  const asks = useSheetAsks('board');
  const part = usePart(job, partOfBoard(server), server);
  const board = part.value;
  const circuits = circuitsOn(j, board);
  const ids = new Set([board.id, ...board.groups.map((g) => g.id)]);
  const checks = (report?.job ?? []).filter((c) => c.sheet === 'board' && ids.has(c.object ?? ''));
  const at = job.view.tests.boards.find((b) => b.board === server.id);
  const lockedWays = new Map(
    (at?.locked ?? []).flatMap((l) => {
      const way = circuits.find((c) => c.id === l.circuit)?.protection.way;
      return way ? [[way, l.by] as const] : [];
    }),
  );
  const Drawn = terms?.columns === 2 ? PanelFace : Face;
  const legs = report?.legs.find((l) => l.board === board.id);
  return (
    <div data-board={board.id || 'main'}>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{board.new ? say('As the job puts it in') : say('As found')}</Heading>
        <BoardFields part={part} j={j} />
      </Section>
      {at && <LiveBand at={at} />}
      {board.ways.length > 0 && <Drawn ways={board.ways} circuits={circuits} leavers={leaversOn(j, board)} locked={lockedWays} />}
      {legs && <LegsDrawing legs={legs} job={job} j={j} board={board} />}
      {checks.length > 0 && (
        <Section>
          <Heading>{asks('loads') ? say('Checks of the panel') : say('Checks of the board')}</Heading>
          <CheckList checks={checks} onOpen={onOpen} opened={opened} />
        </Section>
      )}
      <Section>
        <Heading>{say('Ways')}</Heading>
        <EditTable
          part={part}
          path="ways"
          label={say('Ways of the board')}
          newRow={(rows) => following(rows, 1)[0]}
          columns={[
            { key: 'no', label: say('Way'), kind: 'number', width: 60 },
            { key: 'label', label: say('What it feeds') },
            { key: 'device', label: say('Device'), width: 120 },
            ...(asks('loads')
              ? [
                  { key: 'poles' as const, label: say('Poles'), kind: 'number' as const, zero: true, width: 60 },
                  { key: 'loadA' as const, label: say('Its load'), unit: 'A', kind: 'number' as const, zero: true, width: 80 },
                ]
              : []),
            ...(asks('halves') ? [{ key: 'halves' as const, label: say('Takes two half-size'), kind: 'check' as const, width: 90 }] : []),
            { key: 'blank' as const, label: say('Blank fitted'), kind: 'check', width: 90 },
          ]}
        />
        <AddWays part={part} />
        <CircuitsOfWays job={job} j={j} board={board} />
      </Section>
      {asks('groups') && <SharedDevices part={part} j={j} />}
      {board.id && <RemoveBoard job={job} board={board} />}
    </div>
  );
}
