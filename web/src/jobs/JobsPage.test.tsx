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
