import { expect, test } from 'vitest';
import type { Of } from './client';
import type { At, Path } from './paths';

// These lines do not run: a path that is misspelt, or accepted where it should not be, fails the type check.
type Circuit = Of<'Circuit'>;
const right: Path<Circuit>[] = ['name', 'route.slackM', 'route.segments', 'route.segments[0].lengthM', 'serves.leakMA.value'];
const plan: Path<Of<'Plan'>>[] = ['startDate', 'tasks.c1-point.who'];
const segment: At<Circuit, 'route.segments'>[number]['lengthM'] = 1;
const inner: At<Circuit, `route.segments[${number}].place`> = 'wall';
const anything: Path<unknown> = 'what.ever';

// @ts-expect-error misspelt
const wrong: Path<Circuit> = 'route.slakM';
// @ts-expect-error not a list
const noList: Path<Circuit> = 'route[0]';
// @ts-expect-error beyond a figure
const beyond: Path<Circuit> = 'route.slackM.value';
// @ts-expect-error of an item
const item: Path<Circuit> = 'route.segments[0].lenghtM';

test('paths are typed', () => {
  expect([right.length, plan.length, segment, inner, anything, wrong, noList, beyond, item].every((x) => x !== undefined)).toBe(true);
});
