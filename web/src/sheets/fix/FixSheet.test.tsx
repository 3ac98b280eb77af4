import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
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

test('the first step that is open stands large with its caution; the others are folded by place, each with how much of it is done', () => {
  serve();
  const done = { done: true, doneBy: 'Mo', doneAt: '2026-05-04T09:00:00Z' };
  const job = view({
    tasks: [
      task({ id: 'c1-a', title: 'Mark it', room: 'r1', ...done }),
      task({ id: 'c1-b', title: 'Fit it', room: 'r1', closed: 'Needs an isolation.' }),
      task({ id: 'x', title: 'Sweep up', circuit: '', caution: 'Glass on the floor.' }),
    ],
  });
  const rooms = [{ id: 'r1', name: 'Study' }] as Of<'Room'>[];
  const { container } = show(<FixSheet job={job} j={{ ...job.view.job!, rooms }} open={() => {}} stage="second fix" />);
  const next = container.querySelector('[data-next]')!;
  expect(next.getAttribute('data-task')).toBe('x');
  expect(next.textContent).toContain('Glass on the floor.');
  expect(next.textContent).toContain('The job');
  const groups = [...container.querySelectorAll<HTMLDetailsElement>('details[data-group]')];
  expect(groups.map((g) => [g.open, g.querySelector('summary')!.textContent])).toEqual([
    [false, 'Study 1 of 2 done'],
    [false, 'The job 0 of 1 done'],
  ]);
  expect(container.querySelectorAll('[data-tick]')).toHaveLength(3);
  window.dispatchEvent(new Event('beforeprint'));
  expect(groups.every((g) => g.open)).toBe(true);
});

test('a second touch does not tick the step that comes up in the place of the first', async () => {
  const sent = serve();
  const tasks = [task({}), task({ id: 'c1-label', title: 'Label it' })];
  const job = view({ ...as('supervisor'), tasks });
  let put: (j: Of<'JobView'>) => void = () => undefined;
  const Sheet = () => {
    const [of, setOf] = useState(job);
    put = setOf;
    return <FixSheet job={of} j={of.view.job!} open={() => {}} stage="second fix" />;
  };
  show(<Sheet />);
  const button = () => document.querySelector<HTMLButtonElement>('[data-next] [data-tick]')!;
  fireEvent.click(button());
  await waitFor(() => expect(sent).toHaveLength(1));
  act(() => put(view({ ...as('supervisor'), tasks: [{ ...tasks[0], done: true, doneBy: 'Mo' }, tasks[1]] })));
  expect(button().dataset.tick).toBe('c1-label');
  fireEvent.click(button());
  expect(sent).toHaveLength(1);
  await waitFor(() => expect(button().disabled).toBe(false));
  fireEvent.click(button());
  await waitFor(() => expect(sent).toHaveLength(2));
});

test('only tasks of the sheet’s own stage are on it', () => {
  serve();
  sheet({ tasks: [task({}), task({ id: 'c1-mark', stage: 'first fix', title: 'Mark the route' })] });
  expect(screen.queryByText('Mark the route')).toBeNull();
});

const place = { id: 'board:', name: 'Board A', pairs: ['L-N', 'L-PE', 'N-PE'], cables: 0, staysLive: 'its incoming terminals' };
const main = { id: 'main', kind: 'switch', name: 'Main switch', at: 'Board A', poles: 'all', note: '', automatic: false };
const isolation = record({ id: 'iso1', kind: 'isolation', lockTag: 'padlock 4', tester: 'T 1', opens: [{ device: 'main', kept: 'lock' }] });
const state = {
  record: isolation,
  opened: ['Main switch'],
  flaws: [] as string[],
  proved: ['board:'],
  closes: false,
  mine: true,
  under: false,
};

test('an isolation is sent in its order as it was done; nothing is read or ticked beforehand', async () => {
  const sent = serve({ '/api/jobs/job-1/dead': { next: [main], live: ['the supply'] } });
  sheet({ tests: { ...view().view.tests, devices: [main], places: [place] }, tasks: [task({ dead: ['board:'] })] }, 'electrician');
  fireEvent.click(screen.getByRole('button', { name: 'Record an isolation' }));
  expect(screen.getAllByRole<HTMLInputElement>('checkbox').filter((c) => c.checked)).toHaveLength(0);
  fireEvent.click(await screen.findByRole('button', { name: 'open: Main switch' }));
  expect(screen.getByText(/still live from the supply/)).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Lock and tag'), { target: { value: 'padlock 4' } });
  fireEvent.change(screen.getByLabelText('Tester'), { target: { value: 'T 1' } });
  fireEvent.change(screen.getByLabelText('Kind of tester'), { target: { value: 'contact' } });
  fireEvent.click(screen.getByLabelText('Tester proved on a known source'));
  expect(screen.getByLabelText<HTMLInputElement>('L–N, V').value).toBe('');
  expect(screen.getByLabelText<HTMLInputElement>('L–PE, V').disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('L–N, V'), { target: { value: '0,4' } });
  expect(screen.getByLabelText<HTMLInputElement>('L–PE, V').disabled).toBe(false);
  expect(screen.getByLabelText<HTMLInputElement>('Tester proved again').disabled).toBe(true);
  fireEvent.click(screen.getByRole('button', { name: 'Record' }));
  await waitFor(() =>
    expect(sent[0].body).toMatchObject({
      kind: 'isolation',
      opens: [{ device: 'main', kept: 'lock' }],
      lockTag: 'padlock 4',
      testerKind: 'contact',
      provedBefore: true,
      provedAfter: false,
      proofs: [{ at: 'board:', read: [{ pair: 'L-N', v: 0.4 }] }],
    }),
  );
});

test('an isolation says what it makes dead, or why nothing, and is closed by the tester', async () => {
  const sent = serve();
  const tests = { ...view().view.tests, devices: [main], places: [place], locks: [isolation], isolation, isolations: [state] };
  const { unmount } = sheet({ tests, tasks: [task({ dead: ['board:'] })] }, 'electrician');
  expect(screen.getByText(/Read and found dead: Board A/)).toBeTruthy();
  unmount();
  const open = { ...state, flaws: ['the tester was not proved again.'], proved: [], closes: true };
  sheet({ tests: { ...tests, isolation: null, isolations: [open] }, tasks: [task({})] }, 'electrician');
  expect(screen.getByText(/makes nothing dead for work/).textContent).toContain('the tester was not proved again.');
  fireEvent.click(screen.getByRole('button', { name: 'It does not' }));
  await waitFor(() => expect(sent[0].body).toEqual({ kind: 'tester-proof', tester: 'T 1', passed: false }));
});

test('a further place is proved dead at its task', async () => {
  const sent = serve();
  const study = { id: 'room:r1', name: 'Study', pairs: ['L-N'], cables: 3, staysLive: '' };
  const tests = {
    ...view().view.tests,
    devices: [main],
    places: [place, study],
    locks: [isolation],
    isolation,
    isolations: [state],
    serves: isolation,
  };
  sheet({ tests, tasks: [task({ closed: 'Study was not read.', prove: 'room:r1', dead: ['room:r1'] })] }, 'electrician');
  fireEvent.click(screen.getByRole('button', { name: 'Prove it dead here' }));
  fireEvent.change(screen.getByLabelText('Tester'), { target: { value: 'T 1' } });
  expect(screen.getByText(/that proof serves/)).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Cables counted'), { target: { value: '3' } });
  fireEvent.change(screen.getByLabelText('L–N, V'), { target: { value: '0.2' } });
  fireEvent.click(screen.getByLabelText('Tester proved again'));
  fireEvent.click(screen.getByRole('button', { name: 'Record' }));
  await waitFor(() =>
    expect(sent[0].body).toMatchObject({
      kind: 'proved-dead',
      subject: 'iso1',
      serves: 'iso1',
      provedAfter: true,
      proofs: [{ at: 'room:r1', cables: 3, read: [{ pair: 'L-N', v: 0.2 }] }],
    }),
  );
});

test('whoever is not authorised records what they switched off, and is told that it opens nothing', () => {
  serve();
  sheet({ tasks: [task({})] }, 'office');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Record an isolation' }).disabled).toBe(false);
  expect(screen.getByText(/goes on record, and opens no work/)).toBeTruthy();
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
  fireEvent.change(screen.getByLabelText('What and where'), { target: { value: 'Joint open' } });
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
    isolations: [],
    devices: [],
    places: [],
    serves: null,
    removed: [],
    parts: [],
    use: [],
    guard: { asks: [], waits: [] },
    boards: [],
    conductors: [],
    suspect: null,
    cards: { off: [], emergency: [], on: [] },
    energised: null,
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
  fireEvent.change(screen.getByLabelText(/is off the site/), { target: { value: 'left at ten' } });
  fireEvent.change(screen.getByLabelText(/was reached/), { target: { value: 'rang Mo at home' } });
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Remove it' }).disabled).toBe(true);
  fireEvent.change(screen.getByLabelText(/Who walked/), { target: { value: 'Ada and I' } });
  fireEvent.click(screen.getByRole('button', { name: 'Remove it' }));
  await waitFor(() =>
    expect(sent[0].body).toEqual({ kind: 'lock-off', subject: 'i1', note: 'left at ten', reached: 'rang Mo at home', walked: 'Ada and I' }),
  );
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
  const sent = serve({ '/api/jobs/job-1/dead': { next: [], live: [] } });
  const tests = { ...view().view.tests, devices: [main], places: [place], locks: [isolation], isolation, isolations: [state] };
  sheet({ tests, tasks: [task({ dead: ['board:'] })] });
  fireEvent.click(screen.getByRole('button', { name: 'Correct it' }));
  expect(screen.getByRole('button', { name: 'Main switch: opened' }).getAttribute('aria-pressed')).toBe('true');
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
