import { fireEvent, screen, waitFor } from '@testing-library/react';
import { record, serve, show, testRow, view } from '../../testing/fixture';
import { Entry } from './Entry';
import { TestSheet } from './TestSheet';

const company = {
  version: 1,
  name: 'F',
  currency: '€',
  prices: [],
  schools: view().view.job?.schools,
  instruments: [{ name: 'M3', serial: '12', calibrated: '2027-01-31' }],
};

beforeEach(() => localStorage.clear());
afterEach(() => vi.unstubAllGlobals());

const press = (...names: string[]) => names.forEach((n) => fireEvent.click(screen.getByRole('button', { name: n })));

test('a reading goes out with its instrument, and the model’s figure is not on the screen', async () => {
  const sent = serve({ '/api/company': company });
  const done = vi.fn();
  show(<Entry job={view()} row={testRow({ expected: 0.4321 })} onRecorded={done} />);
  expect(document.body.textContent).not.toContain('0.4321');
  await screen.findByText('M3 12');
  fireEvent.change(screen.getByLabelText(/^Instrument/), { target: { value: 'M3 12' } });
  press('0', '.', '3', '8', '9', 'delete the last digit', '.', 'Record, next test');
  await waitFor(() => expect(done).toHaveBeenCalled());
  expect(sent[0]).toMatchObject({
    method: 'POST',
    path: '/api/jobs/job-1/records',
    body: { kind: 'reading', subject: 'zs', circuit: 'c1', unit: 'Ω', value: 0.38, instrument: 'M3 12', calibrated: '2027-01-31' },
  });
});

test('nothing typed, or no number, cannot be recorded', () => {
  serve({ '/api/company': company });
  show(<Entry job={view()} row={testRow({})} onRecorded={() => {}} />);
  const go = screen.getByRole<HTMLButtonElement>('button', { name: 'Record, next test' });
  expect(go.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Reading in Ω'), { target: { value: 'ok' } });
  expect(go.disabled).toBe(true);
  expect(screen.getByText('“ok” is not a number.')).toBeTruthy();
});

test('a refusal is said and the reading stays', async () => {
  serve({ '/api/company': company }, { status: 422, title: 'reading.instrument: "" is not accepted' });
  const done = vi.fn();
  show(<Entry job={view()} row={testRow({})} onRecorded={done} />);
  press('7', 'Record, next test');
  await screen.findByText(/reading.instrument/);
  expect(screen.getByLabelText<HTMLInputElement>('Reading in Ω').value).toBe('7');
  expect(done).not.toHaveBeenCalled();
});

test('a question takes yes or no; a closed test says what comes first', async () => {
  const sent = serve({ '/api/company': company });
  const { unmount } = show(<Entry job={view()} row={testRow({ id: 'polarity-dead', yesNo: true })} onRecorded={() => {}} />);
  press('No');
  await waitFor(() => expect(sent[0].body).toMatchObject({ subject: 'polarity-dead', passed: false }));
  unmount();
  show(
    <Entry
      job={view()}
      row={testRow({ closed: 'Live test: needs permission to energise first.' })}

      onRecorded={() => {}}
    />,
  );
  expect(screen.getByText(/needs permission/)).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'over range' }).disabled).toBe(true);
});

test('the temperature goes with a reading that is to be corrected', async () => {
  const sent = serve({ '/api/company': company });
  show(<Entry job={view()} row={testRow({ asksTemp: true })} onRecorded={() => {}} />);
  fireEvent.change(screen.getByLabelText('At °C'), { target: { value: '12' } });
  press('1', 'Record, next test');
  await waitFor(() => expect(sent[0].body).toMatchObject({ value: 1, tempC: 12 }));
});

test('why it could not be tested is asked for', async () => {
  const sent = serve({ '/api/company': company });
  show(<Entry job={view()} row={testRow({})} onRecorded={() => {}} />);
  press('Could not test');
  fireEvent.change(screen.getByLabelText('Why it could not be tested', { selector: 'input' }), { target: { value: 'locked room' } });
  press('Record');
  await waitFor(() => expect(sent[0].body).toMatchObject({ couldNot: 'locked room' }));
});

test('the sheet shows what superseded what, and the model beside the reading', () => {
  serve({ '/api/company': company });
  const row = testRow({
    verdict: 'pass',
    summary: 'Within the limit.',
    expected: 0.4,
    reading: record({ value: 0.41, instrument: 'M3 12' }),
    earlier: [record({ value: 9.9, by: 'Mo' })],
  });
  const job = view({
    tests: {
      rows: [row],
      isolation: null,
      locks: [],
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
      energised: record({ kind: 'energise' }),
      verdict: 'pass',
    },
  });
  show(<TestSheet job={job} j={job.view.job!} open={() => {}} />);
  const line = document.querySelector('[data-test="c1/zs"]')?.textContent?.replace(/\u00a0/g, ' ');
  expect(line).toContain('0.41 Ω');
  expect(line).toContain('Model: 0.4 Ω');
  expect(line).toContain('superseded: 9.9 Ω, Mo');
});

test('only the qualified permit, and only what they have seen to', async () => {
  const sent = serve({ '/api/company': company });
  const part = {
    closes: ['main'],
    name: 'Main switch',
    reaches: ['Board A'],
    state: 'locked',
    permit: null,
    lapsed: '',
    covers: [{ id: 'board:', name: 'Board A' }],
    for: [
      {
        use: 'test',
        waits: [],
        asks: [
          { id: 'covers', title: 'Every cover is on' },
          { id: 'people', title: 'Everyone is told' },
        ],
      },
      { use: 'service', waits: [{ why: 'Live tests come before service.', sheet: 'test', circuit: '' }], asks: [] },
    ],
  };
  const job = view({
    tests: {
      rows: [testRow({ live: false })],
      isolation: null,
      locks: [],
      isolations: [],
      devices: [],
      places: [],
      serves: null,
      removed: [],
      energised: null,
      parts: [part],
      use: [],
      guard: { asks: [], waits: [] },
      boards: [],
      conductors: [],
      suspect: null,
      cards: { off: [], emergency: [], on: [] },
      verdict: 'unknown',
    },
  });
  const { unmount } = show(<TestSheet job={job} j={job.view.job!} open={() => {}} />, 'apprentice');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Permit' }).disabled).toBe(true);
  unmount();
  show(<TestSheet job={job} j={job.view.job!} open={() => {}} />, 'electrician');
  const permit = screen.getByRole<HTMLButtonElement>('button', { name: 'Permit' });
  expect(permit.disabled).toBe(true);
  fireEvent.click(screen.getByLabelText('Every cover is on'));
  expect(permit.disabled).toBe(true);
  fireEvent.click(screen.getByLabelText('Everyone is told'));
  expect(permit.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText(/Locks and tags counted/), { target: { value: '1' } });
  expect(permit.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('How people are kept out'), { target: { value: 'room' } });
  fireEvent.click(screen.getByLabelText('Board A'));
  expect(permit.disabled).toBe(false);
  fireEvent.click(permit);
  await waitFor(() =>
    expect(sent[0].body).toMatchObject({
      kind: 'energise',
      use: 'test',
      closes: ['main'],
      confirmed: ['covers', 'people'],
      counted: 1,
      guarding: 'room',
      bare: ['board:'],
    }),
  );
  fireEvent.click(screen.getByRole('button', { name: 'Into service (1)' }));
  expect(screen.getByText(/Live tests come before service/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Permit' })).toBeNull();
});

test('what a tester showed is answered by its pattern, without an instrument', async () => {
  const sent = serve({ '/api/company': company, '/api/terms': { patterns: [{ id: 'open_ground', name: 'open ground' }] } });
  const row = testRow({ id: 'tester:b2', unit: '', patterns: ['correct', 'open_ground'] });
  show(<Entry job={view()} row={row} onRecorded={() => {}} />);
  fireEvent.click(await screen.findByRole('button', { name: 'open ground' }));
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'reading', subject: 'tester:b2', answer: 'open_ground' }));
});

test('a second reading is of another point, or takes the place of the first with the reason', async () => {
  const sent = serve({ '/api/company': company });
  const row = testRow({ reading: record({ id: 'r7', value: 1.3 }) });
  show(<Entry job={view()} row={row} onRecorded={() => {}} />);
  press('In its place', '1');
  const go = screen.getByRole<HTMLButtonElement>('button', { name: 'Record, next test' });
  expect(go.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Why: misread, or what was put right'), { target: { value: 'terminal remade' } });
  press('1', 'Record, next test');
  await waitFor(() => expect(sent[0].body).toMatchObject({ value: 1, supersedes: 'r7', note: 'terminal remade' }));
});

test('an outlier is explained by the qualified', async () => {
  const sent = serve({ '/api/company': company });
  const job = view({
    tests: {
      rows: [testRow({ explain: true, reading: record({ id: 'r9', value: 0.2 }) })],
      isolation: null,
      locks: [],
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
      verdict: 'unknown',
    },
  });
  show(<TestSheet job={job} j={job.view.job!} open={() => {}} />, 'electrician');
  fireEvent.click(document.querySelector('[data-test="c1/zs"]')!);
  fireEvent.change(screen.getByLabelText('Why Loop impedance differs'), { target: { value: 'bonded to the boiler pipes' } });
  press('Save the reason');
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'remark', subject: 'r9', note: 'bonded to the boiler pipes' }));
});

test('what the test disconnects is clamped first; what is typed goes out with the reading', async () => {
  const sent = serve({ '/api/company': company });
  show(<Entry job={view()} row={testRow({ parting: ['Main earthing conductor'] })} onRecorded={() => {}} />);
  expect(screen.getByText(/Main earthing conductor/)).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Current in it before, A'), { target: { value: '3.2' } });
  fireEvent.change(screen.getByLabelText('Across the break, V'), { target: { value: '0,4' } });
  fireEvent.click(screen.getByLabelText(/It was bridged first/));
  press('7', 'Record, next test');
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ value: 7, clampA: 3.2, acrossV: 0.4, bridged: true }));
});

test('a loop that may be read through a residual device says with which test it was', async () => {
  const sent = serve({ '/api/company': company });
  const plain = show(<Entry job={view()} row={testRow({})} onRecorded={() => {}} />);
  expect(screen.queryByLabelText(/does not trip/)).toBeNull();
  plain.unmount();
  show(<Entry job={view()} row={testRow({ asksNoTrip: true })} onRecorded={() => {}} />);
  fireEvent.click(screen.getByLabelText(/does not trip/));
  press('1', 'Record, next test');
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ value: 1, noTrip: true }));
});
