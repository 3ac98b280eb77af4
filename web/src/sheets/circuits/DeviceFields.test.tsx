import { cleanup, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { serve, show, view } from '../../testing/fixture';
import { DeviceFields } from './DeviceFields';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const circuit = (id: string, from: string, backfeed: boolean) =>
  ({
    id,
    name: id,
    use: 'infeed',
    from,
    serves: { backfeed },
    protection: { family: '', poles: 1, way: 0, shared: { is: false, opens: '', secondWay: 0 } },
  }) as unknown as Of<'Circuit'>;

// Circuits that feed each other in a ring are said so by their check; the sheet stays.
it('asks for the direction of a device where the check does, also in a ring of feeds', async () => {
  serve({ '/api/terms': { families: [], asks: {} } });
  const circuits = [circuit('c1', 'c2', false), circuit('c2', 'c1', false), circuit('c3', 'c1', true), circuit('c4', '', false)];
  const part = { value: circuits[3], errors: {}, save: () => {} } as unknown as Part<Of<'Circuit'>>;
  const j = view({}, { circuits }).view.job as Of<'Job'>;
  show(<DeviceFields part={part} j={j} feedsBack />);
  expect(await screen.findByLabelText(/Works from either side/)).toBeTruthy();
  cleanup();
  show(<DeviceFields part={part} j={j} feedsBack={false} />);
  expect(screen.queryByLabelText(/Works from either side/)).toBeNull();
});
