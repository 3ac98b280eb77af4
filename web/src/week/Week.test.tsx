import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../api/client';
import { serve, show } from '../testing/fixture';
import { WeekPage } from './WeekPage';

afterEach(() => vi.unstubAllGlobals());

const days = ['2026-05-04', '2026-05-05', '2026-05-06', '2026-05-07', '2026-05-08', '2026-05-09', '2026-05-10'];
const step = (s: Partial<Of<'PlannedStep'>>): Of<'PlannedStep'> => ({
  task: 't',
  title: 'Boxes',
  stage: 'first fix',
  who: ['Vik'],
  on: '',
  hours: 2,
  crew: 1,
  done: false,
  held: '',
  outdoors: '',
  weather: '',
  ...s,
});

test('the week says who does what, what slipped and what has no day', async () => {
  const none = { hours: 0, over: false, jobs: 0, away: '' };
  const week: Of<'WeekSheet'> = {
    today: '2026-05-05',
    days,
    people: [
      {
        id: 'p1',
        name: 'Vik',
        role: 'electrician',
        slipped: 1,
        lapses: [{ kind: 'Isolate', until: '2026-05-20', over: false }],
        days: days.map((_, n) => (n === 2 ? { hours: 9, over: true, jobs: 2, away: '' } : none)),
      },
    ],
    jobs: [
      {
        id: 'j1',
        ref: 'P-1',
        title: 'Rewire',
        stage: 'first fix',
        town: 'T',
        danger: '',
        address: '',
        pace: null,
        waits: [{ sheet: 'materials', count: 2, first: 'cable' }],
        planned: [
          step({ task: 'a', title: 'Old', on: '2026-05-04' }),
          step({ task: 'b', title: 'Then', on: '2026-05-06' }),
          step({ task: 'c', title: 'Some day' }),
        ],
      },
    ],
  };
  serve({ '/api/week': week, '/api/dangers': [] });
  show(<WeekPage />, 'office');
  await waitFor(() => expect(screen.getByText('Slipped: 1')).toBeTruthy());
  expect(document.querySelector('[data-crew="Vik"]')!.textContent.replace(/\s/g, ' ')).toContain('9 h 2 jobs too much');
  expect(screen.getByText('Waits for 2: cable')).toBeTruthy();
  expect(screen.getByText('Without a day: 1')).toBeTruthy();
  expect(document.querySelectorAll('[data-planned="b"]')).toHaveLength(1);
  fireEvent.click(screen.getByRole('button', { name: 'The week after' }));
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'This week' }).disabled).toBe(false));
});
