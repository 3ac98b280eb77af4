import { fireEvent, screen } from '@testing-library/react';
import type { Of } from '../../api/client';
import { serve, show, view } from '../../testing/fixture';
import { StandbyLeaf } from './StandbyLeaf';

const frame = (f: Partial<Of<'StandbyFrame'>>): Of<'StandbyFrame'> => ({
  atS: 0,
  title: 'The supply is lost',
  summary: 'Everything is dark.',
  supply: false,
  running: false,
  switch: 'utility',
  fed: 'none',
  loadVA: 0,
  peakVA: 0,
  on: [],
  waiting: [],
  over: false,
  ...f,
});

const leaf = (frames: Of<'StandbyFrame'>[]) => {
  const job = view();
  serve({
    [`/api/jobs/${job.id}/supply`]: { standby: { frames, darkS: 21, afterS: 601, summary: 'No source of one’s own is entered.' } },
    [`/api/jobs/${job.id}/circuits`]: { report: { job: [] } },
  });
  show(<StandbyLeaf job={job} j={job.view.job as Of<'Job'>} open={() => {}} />);
};

test('a person steps through the loss and back, and reads what feeds the load', async () => {
  leaf([
    frame({}),
    frame({
      atS: 21,
      title: 'The source feeds',
      running: true,
      switch: 'source',
      fed: 'source',
      loadVA: 9500,
      on: ['Pump'],
      waiting: ['Kiln'],
      over: true,
    }),
  ]);
  await screen.findByText('The supply is lost.');
  const status = () => document.querySelector('[data-frame] [role=status]')?.textContent;
  expect(status()).toContain('The supply is lost');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Step back' }).disabled).toBe(true);
  fireEvent.click(screen.getByRole('button', { name: 'Next step' }));
  expect(status()).toContain('The source feeds');
  expect(screen.getByRole('img', { name: /^Supply/ }).getAttribute('aria-label')).toBe(
    'Supply away; source runs; switch on source; load fed by the source',
  );
  expect(screen.getByText(/too much/)).toBeTruthy();
  expect(screen.getByText('Waiting: Kiln.')).toBeTruthy();
  fireEvent.keyDown(screen.getByRole('button', { name: 'Step back' }), { key: 'ArrowLeft' });
  expect(status()).toContain('The supply is lost');
});

test('without a source it says so', async () => {
  leaf([]);
  expect(await screen.findByText('No source of one’s own is entered.')).toBeTruthy();
});
