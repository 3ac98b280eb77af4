import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { as, record, serve, show, task, view } from '../../testing/fixture';
import { FixSheet } from './FixSheet';

afterEach(() => vi.unstubAllGlobals());

const sheet = (change: Partial<Of<'View'>>, role = 'supervisor') => {
  const job = view({ ...as(role), ...change });
  return show(<FixSheet job={job} j={job.view.job!} open={() => {}} stage="second fix" />, role);
};

test('a closed task says why, names what stays live and cannot be ticked', () => {
  serve();
  sheet({ tasks: [task({ closed: 'Needs your own isolation record of today.' })] });
  expect(screen.getByText(/Needs your own isolation/)).toBeTruthy();
  expect(screen.getByText(/incoming terminals stay live/)).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Done' }).disabled).toBe(true);
});

test('the hazards of the site stand at its head', () => {
  serve();
  const job = view({ tasks: [task({})] });
  const site = { ...job.view.job!.site, hazards: 'Two geese in the yard' };
  show(<FixSheet job={job} j={{ ...job.view.job!, site }} open={() => {}} stage="second fix" />);
  expect(screen.getByText(/Two geese in the yard/)).toBeTruthy();
});

test('a tick is sent, and taken back', async () => {
  const sent = serve();
  sheet({ tasks: [task({}), task({ id: 'c1-label', title: 'Label', done: true, doneBy: 'Mo', doneAt: '2026-05-04T09:00:00Z' })] });
  fireEvent.click(screen.getByRole('button', { name: 'Done' }));
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'tick', subject: 'c1-board', circuit: 'c1', done: true }));
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Undo' }).disabled).toBe(false));
  fireEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(sent[1].body).toMatchObject({ subject: 'c1-label', done: false }));
});

test('only tasks of the sheet’s own stage are on it', () => {
  serve();
  sheet({ tasks: [task({}), task({ id: 'c1-mark', stage: 'first fix', title: 'Mark the route' })] });
  expect(screen.queryByText('Mark the route')).toBeNull();
});

test('an isolation is sent step by step as it was done; nothing is ticked beforehand', async () => {
  const sent = serve({ '/api/terms': { pairs: ['L-N', 'L-PE', 'N-PE'] } });
  sheet({ tasks: [task({})] }, 'electrician');
  fireEvent.click(screen.getByRole('button', { name: 'Record an isolation' }));
  expect(screen.getAllByRole<HTMLInputElement>('checkbox').filter((c) => c.checked)).toHaveLength(0);
  fireEvent.change(screen.getByLabelText('What was switched off'), { target: { value: 'main switch' } });
  fireEvent.click(screen.getByLabelText('1. Tester proved on a known source'));
  fireEvent.click(await screen.findByLabelText('3. Dead between L and PE'));
  fireEvent.click(screen.getByRole('button', { name: 'Record' }));
  await waitFor(() =>
    expect(sent[0].body).toMatchObject({
      kind: 'isolation',
      source: 'main switch',
      provedBefore: true,
      provedAfter: false,
      pairsDead: ['L-PE'],
    }),
  );
});

test('the office does not isolate', () => {
  serve();
  sheet({ tasks: [task({})] }, 'office');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Record an isolation' }).disabled).toBe(true);
});

test('what is left undone is written down, and cleared only with how it was put right', async () => {
  const sent = serve();
  sheet({ loose: [record({ id: 'l1', kind: 'loose-end', note: 'Cover off' })] });
  expect(screen.getByText(/before anything is energised/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Put right' }));
  const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Record' });
  expect(keep.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('How it was put right'), { target: { value: 'cover on, four screws' } });
  fireEvent.click(keep);
  await waitFor(() =>
    expect(sent[0].body).toEqual({ kind: 'loose-end', subject: 'l1', done: true, note: 'cover on, four screws', path: '' }),
  );
  fireEvent.change(screen.getByLabelText(/Unterminated/), { target: { value: 'Joint open' } });
  fireEvent.click(screen.getByRole('button', { name: 'Write it down' }));
  await waitFor(() => expect(sent[1].body).toEqual({ kind: 'loose-end', note: 'Joint open', path: '' }));
});

test('an apprentice notes what is undone but does not clear what holds energising; the office does neither', () => {
  serve();
  const { unmount } = sheet({ loose: [record({ id: 'l1', kind: 'loose-end', note: 'Cover off' })] }, 'apprentice');
  expect(screen.queryByRole('button', { name: 'Put right' })).toBeNull();
  expect(screen.getByRole('button', { name: 'Write it down' })).toBeTruthy();
  unmount();
  sheet({ loose: [record({ id: 'l1', kind: 'loose-end', note: 'Cover off' })] }, 'office');
  expect(screen.queryByRole('button', { name: 'Put right' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Write it down' })).toBeNull();
});

test('a step that a picture ticks asks why there is none', async () => {
  const sent = serve();
  sheet({ tasks: [task({ id: 'c1-photo', photo: true, title: 'Photograph the route' })] });
  fireEvent.click(screen.getByRole('button', { name: 'Done' }));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Done' }).disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Why there is no picture'), { target: { value: 'wall was closed before' } });
  fireEvent.click(screen.getByRole('button', { name: 'Done' }));
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'tick', subject: 'c1-photo', note: 'wall was closed before' }));
});

test('a lock is taken off by whose it is', async () => {
  const sent = serve();
  const locks = [record({ id: 'i1', kind: 'isolation', by: 'Mo', lockTag: 'tag 7' })];
  const tests = {
    rows: [],
    isolation: null,
    locks,
    asks: [],
    energised: null,
    mayEnergise: '',
    deadDone: false,
    verdict: 'unknown' as const,
  };
  const tasks = [task({ isolation: true })];
  const { unmount } = sheet({ tests, tasks }, 'electrician');
  expect(screen.getByText(/Lock of Mo in place: tag 7/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'My lock is off' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Its owner is gone' })).toBeNull();
  unmount();
  sheet({ tests, tasks }, 'supervisor');
  fireEvent.click(screen.getByRole('button', { name: 'Its owner is gone' }));
  fireEvent.change(screen.getByLabelText(/off the site and told/), { target: { value: 'rang Mo at home, walked the house' } });
  fireEvent.click(screen.getByRole('button', { name: 'Remove it' }));
  await waitFor(() => expect(sent[0].body).toEqual({ kind: 'lock-off', subject: 'i1', note: 'rang Mo at home, walked the house' }));
});

test('a tick on a lost connection is tried again under the same key', async () => {
  const keys: (string | null)[] = [];
  vi.stubGlobal('fetch', (request: Request) => {
    if (request.method === 'GET') return Promise.resolve(new Response('{}', { headers: { 'Content-Type': 'application/json' } }));
    keys.push(request.headers.get('Idempotency-Key'));
    if (keys.length === 1) return Promise.reject(new TypeError('network'));
    return Promise.resolve(new Response(JSON.stringify(view()), { headers: { 'Content-Type': 'application/json' } }));
  });
  sheet({ tasks: [task({})] });
  fireEvent.click(screen.getByRole('button', { name: 'Done' }));
  await waitFor(() => expect(keys).toHaveLength(2));
  expect(keys[1]).toBe(keys[0]);
});

test('an isolation is corrected with what was wrong, proved anew, and withdrawn with why', async () => {
  const sent = serve();
  const now = record({ id: 'iso1', kind: 'isolation', source: 'main switch', lockTag: 'padlock 4', tester: 'T 1', provedBefore: true });
  const tests = { ...view().view.tests, isolation: now };
  sheet({ tests, tasks: [task({})] });
  fireEvent.click(screen.getByRole('button', { name: 'Correct it' }));
  expect(screen.getByLabelText<HTMLInputElement>('What was switched off').value).toBe('main switch');
  for (const step of screen.getAllByRole<HTMLInputElement>('checkbox', { name: /Tester proved/ })) expect(step.checked).toBe(false);
  fireEvent.change(screen.getByLabelText('What was wrong with the record before'), { target: { value: 'the other switch' } });
  fireEvent.click(screen.getByRole('button', { name: 'Record' }));
  await waitFor(() =>
    expect(sent.find((s) => s.body.kind === 'isolation')?.body).toMatchObject({
      supersedes: 'iso1',
      note: 'the other switch',
      provedBefore: false,
    }),
  );
  fireEvent.click(await screen.findByRole('button', { name: 'Withdraw it' }));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Withdraw the isolation' }).disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Why it proves nothing'), { target: { value: 'flat cell' } });
  fireEvent.click(screen.getByRole('button', { name: 'Withdraw the isolation' }));
  await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ kind: 'withdrawal', subject: 'iso1', note: 'flat cell' }));
});
