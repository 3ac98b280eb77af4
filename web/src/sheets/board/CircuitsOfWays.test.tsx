import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { serve, show, view } from '../../testing/fixture';
import { CircuitsOfWays } from './CircuitsOfWays';

const way = (no: number, label = '') => ({ no, label, device: '', circuit: '', blank: false, halves: false, poles: 0, loadA: 0 });

test('what the ways name becomes circuits on their ways, in one step', async () => {
  const sent = serve({ '/api/terms': { defaults: [{ id: '', name: 'Cooker of 32 A', protection: { poles: 1 } }] } });
  const plain = view({}, {});
  const board = { ...plain.view.job!.board, ways: [way(1, 'Cooker'), way(2, 'Hall'), way(3)] };
  const job = view({}, { board, circuits: [] });
  show(<CircuitsOfWays job={job} j={job.view.job!} board={board} />);
  await screen.findByText(/no circuit of the job yet: 2/);
  const select = screen.getByLabelText('Way 1: Cooker');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Make 0 circuits' }).disabled).toBe(true);
  fireEvent.change(select, { target: { value: 'Cooker of 32 A' } });
  fireEvent.click(screen.getByRole('button', { name: 'Make 1 circuits' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  const parts = (sent[0].body as unknown as { parts: { part: string; body: unknown }[] }).parts;
  const body = (name: string) => parts.find((p) => p.part === name)?.body;
  expect(body('circuits/c1')).toMatchObject({ id: 'c1', name: 'Cooker', state: 'kept', from: '', protection: { way: 1 } });
  expect((body('board') as Of<'Board'>).ways.map((w) => w.circuit)).toEqual(['c1', '', '']);
});
