import type { Of } from '../../../api/client';
import { ahead, back, end, legOf, listed, step } from './run';

const boxes = (...of: [id: string, from: string][]) => of.map(([id, from]) => ({ id, from }) as Of<'Box'>);
const serves = (last: string, ...of: [string, string][]) => ({ boxes: boxes(...of), back: last }) as Of<'Serves'>;
const rows = (s: Of<'Serves'>) => listed(s).map((x) => `${x.box.id}${'>'.repeat(x.lane)}→${x.next}`);

test('a run is listed as cable comes to it, branches set in', () => {
  expect(rows(serves('', ['a', ''], ['b', 'a'], ['x', 'a'], ['c', 'b'], ['y', 'x']))).toEqual(['a→b', 'x>→y', 'y>→', 'b→c', 'c→']);
});

test('of a ring the line is what leads back to the board', () => {
  const ring = serves('c', ['a', ''], ['spur', 'a'], ['b', 'a'], ['c', 'b']);
  expect(rows(ring)).toEqual(['a→b', 'spur>→', 'b→c', 'c→board']);
  expect(end(ring)).toEqual({ after: 'c', before: back });
});

test('a box goes up and down its line', () => {
  const s = serves('', ['a', ''], ['b', 'a'], ['c', 'b']);
  const [a, b, c] = listed(s);
  expect(step(s, b, -1)).toEqual({ after: '', before: 'a' });
  expect(step(s, b, 1)).toEqual({ after: 'c', before: '' });
  expect(step(s, a, 1)).toEqual({ after: 'b', before: 'c' });
  expect(step(s, a, -1)).toBeUndefined();
  expect(step(s, c, 1)).toBeUndefined();
  expect(ahead(b.box)).toEqual({ after: 'a', before: 'b' });
  expect(end(s)).toEqual({ after: 'c', before: '' });
});

test('a leg is the stretches that lead to it, and unknown where the route does not say', () => {
  const circuit = (segments: Partial<Of<'Segment'>>[]) =>
    ({ serves: serves('', ['a', ''], ['b', 'a']), route: { segments } }) as unknown as Of<'Circuit'>;
  const known = circuit([
    { lengthM: 5, basis: 'measured', to: '' },
    { lengthM: 2, basis: 'measured', to: 'b' },
    { lengthM: 1, basis: 'assumed', to: 'b' },
  ]);
  expect(legOf(known, 'a')).toEqual({ m: 5, basis: 'measured' });
  expect(legOf(known, 'b')).toEqual({ m: 3, basis: 'assumed' });
  expect(legOf(circuit([{ lengthM: 5, basis: 'measured', to: '' }]), 'a')).toBeUndefined();
});
