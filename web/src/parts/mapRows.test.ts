import { get, put } from '../api/paths';
import type { Part } from '../api/part';
import { mapRows } from './mapRows';

interface Stock {
  ordered: number;
  due: string;
}
const nothing: Stock = { ordered: 0, due: '' };
const key = 'c1:cable:twin2.5/90'; // holds what would end a step of a path

function of(lines: Record<string, Stock>, errors: Record<string, string> = {}) {
  const told: unknown[] = [];
  const part: Part<{ lines: Record<string, Stock> }> = {
    name: 'materials',
    value: { lines },
    frozen: false,
    status: 'saved',
    summary: '',
    errors,
    set: (path, v) => told.push(['set', put({ lines }, path, v)]),
    save: (path, v) => told.push(['save', put({ lines }, path, v)]),
    commit: () => {},
    keepMine: () => {},
    takeTheirs: () => {},
  };
  const rows = ['box', key].map((id) => ({ id, need: 3, ...(lines[id] ?? nothing) }));
  return { told, rows: mapRows(part, 'lines', nothing, rows, (r) => r.id) };
}

test('what is changed in a row is written under its id, and nothing else is', () => {
  const { told, rows } = of({ box: { ordered: 2, due: '' } });
  rows.set('rows[1].ordered', 30);
  rows.save('rows', put(put(get(rows.value, 'rows'), '[0].due', '2031-01-05'), '[1].need', 9));
  expect(told).toEqual([
    ['set', { lines: { box: { ordered: 2, due: '' }, [key]: { ordered: 30, due: '' } } }],
    ['save', { lines: { box: { ordered: 2, due: '2031-01-05' } } }],
  ]);
});

test('an error of an id stands at its row', () => {
  const { rows } = of({}, { [`materials.lines[${key}].ordered`]: 'at most 10000' });
  expect(rows.errors).toEqual({ 'materials.rows[1].ordered': 'at most 10000' });
});
