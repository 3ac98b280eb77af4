import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Of } from '../api/client';
import { KeptCalcs } from '../sheets/circuits/KeptCalcs';
import { serve, show, view } from '../testing/fixture';
import { filledOf, inputOf } from './input';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  localStorage.clear();
});

const field = (key: string, type: string, optional = false): Of<'CalcField'> => ({ key, label: key, type, optional, unit: '', doc: '' });

describe('what is filled in', () => {
  const fields = [
    field('span_mm', 'number'),
    field('ring', 'yes or no (true, false)'),
    field('school', 'text', true),
    field('readings', 'object'),
    field('readings.r1', 'number or null'),
    field('readings.step2', 'list'),
    field('holes', 'list'),
    field('holes.x_mm', 'number'),
    field('loads', 'lists by name'),
    field('loads.w', 'number'),
    field('conductors', 'list of lists'),
    field('legs', 'numbers by name'),
  ];
  const input = {
    span_mm: 3600,
    ring: false,
    readings: { r1: null, step2: [0.24, null, 0.3] },
    holes: [{ x_mm: 900 }, { x_mm: 1200 }],
    loads: { cooker: [{ w: 7000 }, { w: 3000 }], lighting: [{ w: 90 }] },
    conductors: [
      ['thhn', '3/0', 3],
      ['thhn', '12', 1],
    ],
    legs: { 'wall oven': 3200, fan: 90 },
  };

  it('reads back as the input that it was filled from', () => {
    expect(inputOf(fields, filledOf(fields, input))).toEqual(input);
  });

  it('sends what is no number as it was typed, for the server to name it', () => {
    expect(inputOf(fields, { span_mm: 'long', holes: [{}] })).toEqual({ span_mm: 'long', ring: false, readings: {}, holes: [], loads: {} });
  });

  it('a decimal comma is a decimal point', () => {
    expect(inputOf([field('zs_ohm', 'number')], { zs_ohm: '0,71' })).toEqual({ zs_ohm: 0.71 });
  });
});

it('a kept calculation is computed anew, links back with what it was given, and can go', async () => {
  const job = view();
  const kept = { calc: 'joist', note: 'landing', input: { span_mm: 3600 } };
  const answer = new Response(
    JSON.stringify({
      values: { acceptable: true, hole_max_dia_mm: 48.75 },
      steps: [],
      keys: { hole_max_dia_mm: { label: 'Largest hole', unit: 'mm' } },
    }),
    {
      headers: { 'Content-Type': 'application/json' },
    },
  );
  const sent = serve();
  const rest = fetch;
  vi.stubGlobal('fetch', (r: Request) => (r.url.includes('/api/calcs/') ? Promise.resolve(answer) : rest(r)));
  const j = { ...(job.view.job as Of<'Job'>), bench: { kept: [kept] } };
  show(<KeptCalcs job={job} j={j} />);
  await screen.findByText('48.75 mm');
  expect(screen.getByRole('link', { name: 'joist' })).toHaveProperty(
    'href',
    expect.stringContaining(`/bench?calc=${j.practice}/joist&job=${job.id}&kept=0`),
  );
  fireEvent.click(screen.getByRole('button', { name: 'Remove' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0].body).toEqual({ kept: [] });
});
