import { expect, test } from 'vitest';
import { sheetAt, sheetName, sheets } from './sheets';

test('a digit leads to the sheet of that place, the brackets to its neighbours', () => {
  expect(sheetAt('1', 'board')).toBe(sheets[0].id);
  expect(sheetAt('0', 'board')).toBe(sheets[9].id);
  expect(sheetAt(']', sheets[0].id)).toBe(sheets[1].id);
  expect(sheetAt('[', sheets[1].id)).toBe(sheets[0].id);
  expect(sheetAt('[', sheets[0].id)).toBeUndefined();
  expect(sheetAt(']', sheets.at(-1)?.id ?? '')).toBeUndefined();
  expect(sheetAt('x', 'board')).toBeUndefined();
  expect(sheetName('first-fix')).toBe('First fix');
  expect(sheetName('other')).toBe('other');
});

test('each sheet has a script of its own', async () => {
  for (const s of sheets) expect((await s.script()).default, s.id).toBeTruthy();
});
