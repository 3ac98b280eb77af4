import { describe, expect, it } from 'vitest';
import type { Of } from '../../api/client';
import { view } from '../../testing/fixture';
import { freeWays, waysOf } from './ways';

const way = (no: number, label = '', poles = 0): Of<'Way'> => ({
  no,
  label,
  device: '',
  circuit: '',
  blank: false,
  halves: false,
  poles,
  loadA: 0,
});

describe('ways of a board', () => {
  it('a second pole lies two numbers on, in two columns only', () => {
    expect(waysOf(3, 2, 2)).toEqual([3, 5]);
    expect(waysOf(3, 2, 1)).toEqual([3]);
    expect(waysOf(3, 0, 2)).toEqual([3]);
  });
  it('a way under a second pole is not free', () => {
    const j = view().view.job as Of<'Job'>;
    j.board.ways = [way(1, 'Range', 2), way(2), way(3), way(4)];
    expect(freeWays(j, j.board, 2).map((w) => w.no)).toEqual([2, 4]);
    expect(freeWays(j, j.board, 1).map((w) => w.no)).toEqual([2, 3, 4]);
  });
});
