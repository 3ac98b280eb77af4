import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../api/client';
import { serve, show, task } from '../testing/fixture';
import { TodayPage } from './TodayPage';

afterEach(() => vi.unstubAllGlobals());

const job = (change: Partial<Of<'TodayJob'>>): Of<'TodayJob'> => ({
  id: 'j1',
  ref: 'P-1',
  title: 'Rewire',
  practice: 'iec230',
  stage: 'first fix',
  customer: 'Oda Brill',
  phone: '000 77',
  address: '7 Eel Quay',
  town: 'Tarrowick',
  access: 'key at the chandler',
  hazards: '',
  dangers: [],
  left: 0,
  locks: [],
  next: null,
  place: '',
  groups: [],
  take: [],
  words: ['Remy Stroud: the key is with the baker'],
  frozen: false,
  ...change,
});

test('the day shows the first job open with its next step, which one touch says is done', async () => {
  const next = task({ id: 'r1-locate', title: 'Find the cables', caution: 'A detector may miss one.', isolation: false });
  const sent = serve({
    '/api/today': {
      day: '2026-05-04',
      jobs: [
        job({
          next,
          place: 'Study',
          groups: [{ place: 'Study', done: 2, tasks: [next, task({ id: 'x', title: 'Boxes', closed: 'First: Find the cables.' })] }],
        }),
        job({ id: 'j2', ref: 'P-2' }),
      ],
    },
    '/api/dangers': [{ id: 'j9', ref: 'P-9', title: 'Loft', danger: 'A live part can be touched' }],
    '/api/terms': { locale: 'en-GB' },
  });
  show(<TodayPage />, 'electrician');
  await waitFor(() => expect(screen.getByText('Find the cables')).toBeTruthy());
  expect(screen.getAllByText(/key at the chandler/)).toHaveLength(1);
  expect(screen.getByRole('alert').textContent).toContain('P-9 Danger now: A live part can be touched');
  expect([...document.querySelectorAll<HTMLDetailsElement>('[data-day-job]')].map((d) => d.open)).toEqual([true, false]);
  expect(screen.queryByText('First: Find the cables.')).toBeNull();
  const fold = document.querySelector<HTMLDetailsElement>('[data-day-place="Study"]')!;
  fold.open = true;
  fireEvent(fold, new Event('toggle'));
  await waitFor(() => expect(screen.getByText('First: Find the cables.')).toBeTruthy());
  fireEvent.click(document.querySelector('[data-day-tick="r1-locate"]')!);
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'tick', subject: 'r1-locate', done: true }));
});

test('a day with nothing on it says who plans it', async () => {
  serve({ '/api/today': { day: '2026-05-04', jobs: [] }, '/api/dangers': [] });
  show(<TodayPage />, 'apprentice');
  await waitFor(() => expect(document.querySelector('[data-nothing]')).toBeTruthy());
});
