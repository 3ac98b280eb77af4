import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { serve, show, view } from '../../testing/fixture';
import { LegsDrawing } from './LegsDrawing';
import { PanelFace } from './PanelFace';

const way = (no: number, label = '', loadA = 0, poles = 0): Of<'Way'> => ({
  no,
  label,
  device: label && '20',
  circuit: '',
  blank: false,
  halves: false,
  poles,
  loadA,
});

const legs = (moves: Of<'Move'>[]): Of<'Legs'> => ({ board: '', a: 30, b: 10, neutralA: 20, moves, afterA: 20, afterB: 20, unknown: 2 });

test('what each leg carries, and a move of what was there changes two spaces', async () => {
  const sent = serve();
  const job = view();
  const j = { ...(job.view.job as Of<'Job'>) };
  j.board = { ...j.board, ways: [way(1, 'Loom', 10), way(2, 'Vat', 20), way(3), way(4)] };
  show(<LegsDrawing legs={legs([{ name: 'Loom', circuit: '', from: 1, to: 3 }])} job={job} j={j} board={j.board} />);
  expect(document.body.textContent).toContain('The neutral carries 20\u00a0A.');
  expect(document.body.textContent).toContain('2 spaces have no load noted');
  fireEvent.click(screen.getByRole('button', { name: 'Take it' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0].path).toBe('/api/jobs/job-1/parts');
  const ways = (sent[0].body as unknown as Of<'Board'>).ways;
  expect(ways.map((w) => [w.no, w.label])).toEqual([
    [1, ''],
    [2, 'Vat'],
    [3, 'Loom'],
    [4, ''],
  ]);
});

test('an even panel proposes nothing', () => {
  const job = view();
  show(
    <LegsDrawing
      legs={{ ...legs([]), neutralA: 0, unknown: 0 }}
      job={job}
      j={job.view.job as Of<'Job'>}
      board={(job.view.job as Of<'Job'>).board}
    />,
  );
  expect(screen.queryByRole('button')).toBeNull();
});

test('the face names what is on each space, a device of two poles once', () => {
  show(<PanelFace ways={[way(1, 'Range', 33, 2), way(2, 'Lights'), way(3), way(4)]} circuits={[]} leavers={[]} locked={new Map()} />);
  const summary = screen.getByRole('img').getAttribute('aria-label');
  expect(summary).toBe('Face of the panel. space 1: Range; space 2: Lights');
  expect(screen.getByText('1, 3')).toBeTruthy();
  expect(screen.getAllByText('free, open')).toHaveLength(1);
});

test('a device of two poles over another is said and stands out', () => {
  show(<PanelFace ways={[way(1, 'Range', 33, 2), way(2), way(3, 'Alarms'), way(4)]} circuits={[]} leavers={[]} locked={new Map()} />);
  expect(screen.getByRole('img').getAttribute('aria-label')).toContain('space 1: Range, over Alarms');
});
