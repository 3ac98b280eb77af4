import { describe, expect, it } from 'vitest';
import type { Of } from '../../api/client';
import { rehung } from './boxes';

const box = (id: string, from: string, side = 'line') => ({ id, from, side }) as Of<'Box'>;
const wired = (boxes: Of<'Box'>[]) => boxes.map((b) => [b.id, b.from, b.side]);

describe('a string of boxes', () => {
  const all = [box('a', ''), box('b', 'a', 'load'), box('c', 'b'), box('d', 'b')];
  it('closes over a box that is taken out', () => {
    expect(wired(rehung(all, [all[0], all[2], all[3]]))).toEqual([
      ['a', '', 'line'],
      ['c', 'a', 'load'],
      ['d', 'a', 'load'],
    ]);
    expect(wired(rehung(all, [all[2]]))).toEqual([['c', '', 'line']]);
    expect(rehung(all, all)).toEqual(all);
  });
});
