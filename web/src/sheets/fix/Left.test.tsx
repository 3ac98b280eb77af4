import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { PracticeContext } from '../../api/job';
import { as, record, serve, show, view } from '../../testing/fixture';
import { LooseEnds } from './LooseEnds';
import { RoomPoints } from './RoomPoints';

afterEach(() => vi.unstubAllGlobals());

const kinds: Of<'LeftTerm'>[] = [
  { id: 'blind-end', name: 'Blind end', care: 'Cap it.', ends: true, open: false, rated: false, fed: false, others: false, picture: false },
  {
    id: 'supply',
    name: 'Temporary supply',
    care: 'Off the floor.',
    ends: false,
    open: false,
    rated: true,
    fed: true,
    others: false,
    picture: true,
  },
];
const pointSteps: Of<'PointTerm'>[] = [
  { id: 'marked', name: 'Marked', stage: 'first fix', open: false, free: true },
  { id: 'boxed', name: 'Box in', stage: 'first fix', open: false, free: false },
  { id: 'tugged', name: 'Tugged', stage: 'second fix', open: false, free: false },
];
const terms = {
  '/api/terms': { locale: 'en-GB', left: kinds, triggers: [{ id: 'plaster', name: 'after plastering' }], pointSteps },
};

const left = (l: Partial<Of<'LeftState'>>, r: Partial<Of<'Record'>> = {}): Of<'LeftState'> => ({
  record: record({ id: 'l1', kind: 'loose-end', left: 'blind-end', ...r }),
  says: 'Blind end: larder',
  danger: false,
  care: 'Cap it.',
  waits: 'before its circuit is energised',
  when: '',
  lacks: [],
  proof: '',
  ...l,
});

const put = (change: Partial<Of<'View'>>, role = 'supervisor') => {
  const job = view({ ...as(role), ...change });
  return show(
    <PracticeContext value="iec230">
      <LooseEnds job={job} />
    </PracticeContext>,
    role,
  );
};

test('what is left is noted by its kind, which asks for what it needs and for nothing else', async () => {
  const sent = serve(terms);
  put({});
  await waitFor(() => expect(screen.getByRole('option', { name: 'Blind end' })).toBeTruthy());
  fireEvent.change(screen.getByLabelText('What is left'), { target: { value: 'blind-end' } });
  expect(screen.getByText('Cap it.')).toBeTruthy();
  expect(screen.queryByLabelText('Rating, A')).toBeNull();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Write it down' }).disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Where'), { target: { value: 'larder' } });
  fireEvent.change(screen.getByLabelText('Live'), { target: { value: 'yes' } });
  fireEvent.click(screen.getByRole('button', { name: 'Write it down' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0].body).toMatchObject({ kind: 'loose-end', left: 'blind-end', place: 'larder', alive: true, shielded: false });
  expect(sent[0].body).not.toHaveProperty('reach');
  fireEvent.change(screen.getByLabelText('What is left'), { target: { value: 'supply' } });
  expect(screen.getByLabelText('Rating, A')).toBeTruthy();
  expect(screen.queryByLabelText('Live')).toBeNull();
  fireEvent.change(screen.getByLabelText('Where'), { target: { value: 'yard' } });
  fireEvent.change(screen.getByLabelText('Rating, A'), { target: { value: 'sixteen' } });
  expect(screen.getByText('a figure in A, or nothing')).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Write it down' }).disabled).toBe(true);
});

test('a danger says so; it is put right only once what shows it is there, and how it stands now takes the place of how it stood', async () => {
  const sent = serve(terms);
  put({ left: [left({ danger: true, proof: 'a test of its circuit', lacks: ['who puts it right'] }, { alive: true, place: 'larder' })] });
  expect(screen.getByText('Danger now.')).toBeTruthy();
  expect(screen.getByText(/Not said yet: who puts it right/)).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Put right' }).disabled).toBe(true);
  await waitFor(() => expect(screen.getByRole('option', { name: 'Blind end' })).toBeTruthy());
  fireEvent.click(screen.getByRole('button', { name: 'Has changed' }));
  fireEvent.click(screen.getByLabelText('Capped, nothing can be touched'));
  fireEvent.click(screen.getByRole('button', { name: 'It stands so now' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0].body).toMatchObject({ left: 'blind-end', supersedes: 'l1', shielded: true, alive: true, place: 'larder' });
});

/** The fold is opened. */
const toggled = () => {
  document.querySelector('details')!.open = true;
  return new Event('toggle');
};

const room: Of<'RoomWork'> = {
  room: 'r1',
  first: '',
  second: 'Needs your own isolation.',
  points: [
    {
      point: 'p1',
      says: '2 × socket',
      tags: ['P001'],
      done: ['marked'],
      failed: '',
      care: '',
      wires: [],
      steps: ['marked', 'boxed', 'tugged'],
    },
    { point: 'p2', says: '1 × light', tags: [], done: [], failed: '', care: '', wires: [], steps: ['marked', 'boxed', 'tugged'] },
  ],
};

const points = (stage: 'first fix' | 'second fix', of = room) =>
  show(
    <PracticeContext value="iec230">
      <RoomPoints job={view({ ...as('electrician') })} room={of} stage={stage} />
    </PracticeContext>,
    'electrician',
  );

test('one touch says of a whole room what is done, another of one point', async () => {
  const sent = serve(terms);
  points('first fix');
  await waitFor(() => expect(screen.getByRole('button', { name: 'Marked: all of this room' }).textContent).toBe('Marked 1 of 2'));
  fireEvent.click(screen.getByRole('button', { name: 'Marked: all of this room' }));
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'point-work', room: 'r1', steps: ['marked'], points: [], done: true }));
  fireEvent(document.querySelector('details')!, toggled());
  const boxed = document.querySelector('[data-point="p2"] [data-step="boxed"]')!;
  fireEvent.click(boxed);
  await waitFor(() => expect(sent[1].body).toMatchObject({ steps: ['boxed'], points: ['p2'], done: true }));
  expect(screen.queryByText('One came out')).toBeNull();
});

test('second fix says why it is closed, and what came out is said all the same', async () => {
  const sent = serve(terms);
  points('second fix');
  expect(screen.getByText('Needs your own isolation.')).toBeTruthy();
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Tugged: all of this room' }).disabled).toBe(true));
  fireEvent(document.querySelector('details')!, toggled());
  fireEvent.click(document.querySelector('[data-came-out="p1"]')!);
  fireEvent.change(screen.getByLabelText('Which conductor came out, and why'), { target: { value: 'neutral, too short' } });
  fireEvent.click(screen.getByRole('button', { name: 'Record' }));
  await waitFor(() =>
    expect(sent[0].body).toMatchObject({ steps: ['tugged'], points: ['p1'], done: false, passed: false, note: 'neutral, too short' }),
  );
});

test('what others covered names their trade, and takes hours and parts as it is put right', async () => {
  const others: Of<'LeftTerm'> = { ...kinds[0], id: 'covered', name: 'Covered by others', ends: false, others: true, picture: true };
  const sent = serve({ '/api/terms': { ...terms['/api/terms'], left: [others] } });
  const trade = { id: 't1', name: 'Joiner', rooms: '', says: '', ready: '', done: false, late: false, clash: '', returns: false };
  put({ trades: [trade], left: [left({}, { left: 'covered', trade: 't1' })] });
  await waitFor(() => expect(screen.getByRole('option', { name: 'Covered by others' })).toBeTruthy());
  fireEvent.change(screen.getByLabelText('What is left'), { target: { value: 'covered' } });
  expect(screen.getByRole('option', { name: 'Joiner' })).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Put right' }));
  fireEvent.change(screen.getByLabelText('How it was put right'), { target: { value: 'cut out' } });
  fireEvent.change(screen.getByLabelText('Hours that it took'), { target: { value: 'two' } });
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Record' }).disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Hours that it took'), { target: { value: '1,5' } });
  fireEvent.click(screen.getByRole('button', { name: 'Record' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0].body).toMatchObject({ kind: 'loose-end', done: true, spentH: 1.5 });
  expect(sent[0].body).not.toHaveProperty('cost');
});
