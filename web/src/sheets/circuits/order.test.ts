import { expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import { serve, view } from '../../testing/fixture';
import { inOrder, swapWays, wayOf } from './order';

const circuit = (id: string, way: number, from = '') =>
  ({
    id,
    name: id,
    from,
    protection: { way, half: '', shared: { is: false, opens: '', secondWay: 0 }, ownEnclosure: false },
  }) as unknown as Of<'Circuit'>;
const circuits = [circuit('shed', 4), circuit('new', 0), circuit('ring', 1), circuit('shed lights', 2, 'shed'), circuit('loop', 0, 'loop')];

it('circuits stand by way, with what they feed after them', () => {
  expect(inOrder(circuits, circuits).map((c) => c.id)).toEqual(['ring', 'shed', 'shed lights', 'new', 'loop']);
  expect(['ring', 'shed lights', 'new', 'gone'].map((id) => wayOf(circuits, id))).toEqual(['1', '↳ 2', '–', '']);
});

it('two change ways in one command', async () => {
  const sent = serve();
  await swapWays(view({}, { circuits }), 'ring', 'shed');
  const { title, parts } = sent[0].body as unknown as Of<'PartsChange'>;
  expect(sent).toHaveLength(1);
  expect(title).toBe('swap ways 1 and 4');
  expect(parts.map((p) => [p.part, (p.body as Of<'Circuit'>).protection.way])).toEqual([
    ['circuits/ring', 4],
    ['circuits/shed', 1],
  ]);
  await expect(swapWays(view({}, { circuits }), 'ring', 'new')).rejects.toThrow('do not both stand on a way');
  vi.unstubAllGlobals();
});
