import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import { serve, show, view } from '../../testing/fixture';
import { AddCircuit } from './AddCircuit';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const fresh = (name: string, use: string) => ({ id: '', name, use }) as unknown as Of<'Circuit'>;
const reads = { '/api/terms': { defaults: [fresh('Ring final circuit', 'ring'), fresh('Charge point', 'ev')] } };

it('sends the usual circuit of the job’s kind, also where nobody waits for it', async () => {
  const sent = serve(reads);
  show(<AddCircuit job={view({}, { kind: 'ev-charger', circuits: [{ id: 'c1' } as Of<'Circuit'>] })} />);
  await screen.findByRole('option', { name: 'Charge point' });
  fireEvent.click(screen.getByRole('button', { name: 'Add circuit' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0].body).toEqual({ id: 'c2', name: 'Charge point', use: 'ev', state: '' });
});

it('adds what is chosen with Enter, and says which id it has', async () => {
  const sent = serve(reads);
  const added: string[] = [];
  show(<AddCircuit job={view({}, { kind: 'rewire' })} onAdded={(id) => added.push(id)} />);
  await screen.findByRole('option', { name: 'Charge point' });
  const choice = screen.getByLabelText('Circuit to add');
  fireEvent.change(choice, { target: { value: 'Charge point' } });
  fireEvent.keyDown(choice, { key: 'Enter' });
  await waitFor(() => expect(added).toEqual(['c1']));
  expect(sent[0].body.use).toBe('ev');
});

it('keeps what is chosen and says why when it is refused', async () => {
  serve(reads, { status: 422, title: 'at most 40 circuits' });
  show(<AddCircuit job={view({}, { kind: 'rewire' })} />);
  await screen.findByRole('option', { name: 'Charge point' });
  fireEvent.change(screen.getByLabelText('Circuit to add'), { target: { value: 'Charge point' } });
  fireEvent.click(screen.getByRole('button', { name: 'Add circuit' }));
  await screen.findByText(/at most 40 circuits/);
  expect(screen.getByLabelText<HTMLSelectElement>('Circuit to add').value).toBe('Charge point');
});
