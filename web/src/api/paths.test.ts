import { differences, get, put } from './paths';

const body = { point: { currentA: 32 }, segments: [{ lengthM: 4 }, { lengthM: 9 }] };

test('reads a value by the path that the server names', () => {
  expect(get(body, 'segments[1].lengthM')).toBe(9);
  expect(get(body, 'segments[7].lengthM')).toBeUndefined();
});

test('puts a value into a copy and shares what is not on the path', () => {
  const next = put(body, 'segments[1].lengthM', 12);
  expect(next.segments[1].lengthM).toBe(12);
  expect(body.segments[1].lengthM).toBe(9);
  expect(next.point).toBe(body.point);
  expect(Array.isArray(next.segments)).toBe(true);
});

test('lists where two versions differ', () => {
  expect(differences(body, put(body, 'segments[0].lengthM', 5))).toEqual([{ path: 'segments[0].lengthM', mine: 4, theirs: 5 }]);
  expect(differences(body, structuredClone(body))).toEqual([]);
});
