import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { takeRemedy } from '../../api/take';
import { serve, show, view } from '../../testing/fixture';
import { OtherBuilding } from './OtherBuilding';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const none = { value: null, basis: '', note: '' };
const out = { building: true, choice: '', reason: '', metalwork: null, bondMM2: none, raOhm: none };
const circuit = (id: string) => ({ id, name: id, out, protection: { group: 'a' }, route: { lineMM2: 6 } }) as unknown as Of<'Circuit'>;
const option = (id: string, chosen: boolean): Of<'Option'> => ({
  id,
  title: id,
  condition: `condition of ${id}`,
  reason: '',
  verdict: 'unknown',
  summary: `waits for ${id}`,
  chosen,
});

it('both ways stand with their conditions, and a choice is saved', () => {
  const saved: unknown[] = [];
  const part = { value: circuit('c1'), errors: {}, save: (...a: unknown[]) => saved.push(a) } as unknown as Part<Of<'Circuit'>>;
  show(<OtherBuilding part={part} options={[option('export', false), option('electrode', false)]} />);
  expect(screen.getByText('Condition: condition of electrode')).toBeTruthy();
  fireEvent.click(screen.getByRole('radio', { name: /electrode/ }));
  expect(saved).toEqual([['out.choice', 'electrode']]);
});

it('a remedy in several circuits changes all of them in one command, and nothing else', async () => {
  const sent = serve();
  const job = view({}, { circuits: [circuit('c1'), circuit('c2'), circuit('c3')] });
  const sets = [
    { part: 'circuits/c1', field: 'protection.group', value: 'b' },
    { part: 'circuits/c3', field: 'protection.group', value: 'b' },
    { part: 'circuits/c3', field: 'route.lineMM2', value: 10 },
  ];
  await takeRemedy(job, { title: 't', effect: 'e', sets });
  const { parts } = sent[0].body as unknown as Of<'PartsChange'>;
  expect(sent).toHaveLength(1);
  expect(parts.map((p) => p.part)).toEqual(['circuits/c1', 'circuits/c3']);
  expect(parts[1].body).toMatchObject({ protection: { group: 'b' }, route: { lineMM2: 10 } });
});
