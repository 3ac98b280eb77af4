import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../api/client';
import { show } from '../testing/fixture';
import { JobsPage } from './JobsPage';

afterEach(() => vi.unstubAllGlobals());

const row = (n: number): Of<'JobRow'> => ({
  id: `j${n}`,
  ref: `P-${n}`,
  title: 'Rewire',
  kind: 'rewire',
  customer: 'C',
  address: '7 Eel Quay',
  town: 'T',
  stage: 'survey',
  hold: '',
  sheet: '',
  who: '',
  holds: 0,
  trouble: '',
  locks: '',
  waits: [],
  danger: '',
  updatedAt: '2026-05-04T09:00:00Z',
});

test('the list is shown page by page; what is typed is searched once it stands still, and the search before is given up', async () => {
  const asked: string[] = [];
  const given: boolean[] = [];
  vi.stubGlobal('fetch', async (r: Request) => {
    const url = new URL(r.url);
    if (url.pathname !== '/api/jobs') return new Response('[]', { headers: { 'Content-Type': 'application/json' } });
    asked.push(url.search);
    r.signal.addEventListener('abort', () => given.push(true));
    if (url.searchParams.get('q') === 'ee') await new Promise(() => {}); // never answered
    const after = url.searchParams.get('after');
    const page = { jobs: [row(after ? 2 : 1)], total: 2, exact: true, next: after ? '' : 'n1' };
    return new Response(JSON.stringify(page), { headers: { 'Content-Type': 'application/json' } });
  });
  show(<JobsPage />);
  expect(await screen.findByText('1 of 2 jobs')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Show more' }));
  expect(await screen.findByText('2 of 2 jobs')).toBeTruthy();
  expect(screen.getByText('P-2')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Show more' })).toBeNull();

  const box = screen.getByRole('textbox', { name: 'Search jobs' });
  for (const text of ['e', 'ee']) fireEvent.change(box, { target: { value: text } });
  await waitFor(() => expect(asked.at(-1)).toBe('?q=ee'));
  expect(asked).not.toContain('?q=e');
  fireEvent.change(box, { target: { value: 'eel' } });
  await waitFor(() => expect(asked.at(-1)).toBe('?q=eel'));
  await waitFor(() => expect(given).toEqual([true]));
});

test('what holds a job is said sheet by sheet: the first three in words, the others by number', async () => {
  const wait = (sheet: string, count: number, first: string) => ({ sheet, count, first });
  const jobs = [
    {
      ...row(1),
      holds: 223,
      waits: [
        wait('survey', 2, 'the existing load'),
        wait('supply', 1, 'Ze'),
        wait('circuits', 3, 'a cable'),
        wait('test', 200, 'a reading'),
        wait('plan', 17, 'a date'),
      ],
    },
  ];
  vi.stubGlobal('fetch', (r: Request) => {
    const page = { jobs, total: 1, exact: true, next: '' };
    const body = new URL(r.url).pathname === '/api/jobs' ? JSON.stringify(page) : '[]';
    return Promise.resolve(new Response(body, { headers: { 'Content-Type': 'application/json' } }));
  });
  show(<JobsPage />);
  await screen.findByText('P-1');
  expect([...document.querySelectorAll('[data-wait]')].map((e) => e.textContent)).toEqual([
    'Survey 2: the existing load',
    'Supply: Ze',
    'Circuits 3: a cable',
  ]);
  expect(screen.getByText('Test 200 · Plan 17')).toBeTruthy();
  expect(document.body.textContent).not.toContain('more');
});
