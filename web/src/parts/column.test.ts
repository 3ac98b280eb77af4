import { expect, test } from 'vitest';
import { readCell, shownAs } from './column';

test('a list is typed as it goes out in files, and is refused whole where one of it is no number above 0', () => {
  const packs = { kind: 'figures' } as const;
  expect(readCell(packs, '50 | 12,5|100')).toEqual([50, 12.5, 100]);
  expect(readCell(packs, ' ')).toEqual([]);
  for (const bad of ['50 | 0', '50 | ten', '-5']) expect(readCell(packs, bad)).toBeUndefined();
  expect(shownAs(packs, [50, 12.5])).toBe('50 | 12.5');
  expect(shownAs(packs, [])).toBe('');
  expect(readCell({ kind: 'words' }, 'a:1 | b:2 |')).toEqual(['a:1', 'b:2']);
});
