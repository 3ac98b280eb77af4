import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { usePart } from '../../api/part';
import { serve, show, view } from '../../testing/fixture';
import { AddWays } from './AddWays';

const way = (no: number) => ({ no, label: '', device: '', circuit: '', blank: false, halves: false, poles: 0, loadA: 0 });

function Board({ job }: { job: Of<'JobView'> }) {
  const part = usePart(job, 'board', job.view.job!.board);
  return <AddWays part={part} />;
}

test('adds as many ways at once as the board has, numbered on', async () => {
  const sent = serve();
  const job = view({}, { board: { ...view({}, {}).view.job!.board, ways: [way(1), way(3)] } });
  show(<Board job={job} />);
  const asked = screen.getByLabelText('How many ways to add');
  fireEvent.change(asked, { target: { value: 'many' } });
  expect(screen.getByText('Give a whole number from 1 to 99.')).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add ways' }).disabled).toBe(true);
  fireEvent.change(asked, { target: { value: '3' } });
  fireEvent.click(screen.getByRole('button', { name: 'Add ways' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect((sent[0].body as unknown as Of<'Board'>).ways.map((w) => w.no)).toEqual([1, 3, 4, 5, 6]);
});
