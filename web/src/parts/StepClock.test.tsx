import { fireEvent, screen, waitFor } from '@testing-library/react';
import { serve, show, task } from '../testing/fixture';
import { StepClock } from './StepClock';

afterEach(() => vi.unstubAllGlobals());

const since = '2026-05-04T08:00:00Z';

test('hours start and stop with one touch, and others are seen beside it', async () => {
  const sent = serve({ '/api/terms': { locale: 'en-GB' } });
  const t = task({ clocks: [{ by: 'Jana', person: 'other', since, lost: false }], worked: 1.5, hours: 2 });
  show(<StepClock job="job-1" task={t} frozen={false} />, 'electrician');
  expect(document.querySelector('[data-clock]')!.textContent).toContain('Jana since');
  expect(document.querySelector('[data-clock]')!.textContent).toMatch(/1\.5 of 2.h so far/);
  fireEvent.click(screen.getByRole('button', { name: 'Start the hours' }));
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'clock', subject: t.id, done: false }));
});

test('a clock of one’s own stops, and one that was never stopped asks for its hours', async () => {
  const sent = serve({ '/api/terms': { locale: 'en-GB' } });
  const t = task({
    clocks: [
      { by: 'Vik', person: 'p', since, lost: false },
      { by: 'Vik', person: 'p', since: '2026-05-01T08:00:00Z', lost: true },
    ],
  });
  show(<StepClock job="job-1" task={t} frozen={false} />, 'electrician');
  fireEvent.click(screen.getByRole('button', { name: 'Stop the hours' }));
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'clock', done: true }));
  fireEvent.change(screen.getByLabelText('Person-hours to add'), { target: { value: '3.5' } });
  fireEvent.click(screen.getByRole('button', { name: 'Add' }));
  await waitFor(() => expect(sent[1].body).toMatchObject({ kind: 'worked', subject: t.id, value: 3.5 }));
});

test('the office and a step that is done have no clock', () => {
  serve({ '/api/terms': { locale: 'en-GB' } });
  show(<StepClock job="job-1" task={task({ done: true })} frozen={false} />, 'electrician');
  expect(document.querySelector('[data-clock]')).toBeNull();
});
