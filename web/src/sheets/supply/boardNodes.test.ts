import { expect, test } from 'vitest';
import type { Of } from '../../api/client';
import { view } from '../../testing/fixture';
import { boardNodes } from './boardNodes';

const job = (main: Partial<Of<'Board'>>, boards: Partial<Of<'Board'>>[]): Of<'Job'> => {
  const j = view().view.job as Of<'Job'>;
  const board = { ...j.board, ...main };
  return {
    ...j,
    board,
    boards: boards.map((b) => ({ ...j.board, ...b })),
    circuits: [{ id: 'c1', from: '' }] as unknown as Of<'Circuit'>[],
  };
};

test('a board hangs on what feeds it; the main one is drawn beside the arrangement only where others hang on it', () => {
  expect(boardNodes(job({}, []))).toEqual([]);
  expect(boardNodes(job({ enclosure: 'e2' }, [{ id: 'b1', feed: 'c1' }])).map((b) => [b.id, b.at, b.own])).toEqual([
    ['', 'e2', false],
    ['b1', 'e2', true],
  ]);
  expect(
    boardNodes(
      job({}, [
        { id: 'b1', feed: 'c1' },
        { id: 'b2', enclosure: 'e3' },
      ]),
    ).map((b) => [b.id, b.at, b.own]),
  ).toEqual([
    ['', '', true],
    ['b1', 'board:', true],
    ['b2', 'e3', false],
  ]);
});
