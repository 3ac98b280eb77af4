import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { Of } from '../../api/client';
import { serve, show, view } from '../../testing/fixture';
import { ByAsker } from './ByAsker';
import { CountNote } from './CountNote';
import { CutPlans } from './CutPlans';

const line = { row: 3, product: 'cable:a', name: 'Cable A', unit: 'm', said: 50, lengths: '50', remark: '', open: 50, trouble: '' };
const note: Of<'GoodsNote'> = { number: 'D-4', merchant: 'Quay', on: '2026-12-02', lines: [line] };

test('what a note says is no count until somebody says so', async () => {
  const sent = serve();
  show(<CountNote job={view()} note={note} onDone={() => undefined} />);
  const book = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Book it in' });
  expect(book().disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Counted, m'), { target: { value: '9,5' } });
  fireEvent.change(screen.getByLabelText('Counted by'), { target: { value: '' } });
  expect(book().disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Counted by'), { target: { value: 'Dot' } });
  fireEvent.click(book());
  await waitFor(() => expect(sent.length).toBeGreaterThan(0));
  const body = sent.find((s) => s.path.endsWith('/deliveries'))?.body as Of<'Delivery'>;
  expect(body.countedBy).toBe('Dot');
  expect(body.lines[0]).toMatchObject({ product: 'cable:a', said: 50, counted: 9.5, lengths: '' });
});

const cut = (c: Partial<Of<'Cut'>>): Of<'Cut'> => ({
  for: 'Ring',
  from: '',
  to: '',
  length: 5,
  start: 0,
  end: 5,
  assumed: true,
  share: true,
  ...c,
});

const planOf = (change: Partial<Of<'CutPlan'>>): Of<'CutPlan'> => ({
  product: 'cable:a',
  name: 'Cable A',
  unit: 'm',
  buy: [{ length: 50, count: 1 }],
  bars: [],
  bought: 50,
  bound: 50,
  hand: 100,
  exact: true,
  measure: [],
  lacks: '',
  ...change,
});

test('cut plans are shown while better ones are looked for, and whoever stops keeps the best so far', async () => {
  let wire!: ReadableStreamDefaultController<Uint8Array>;
  let asked = 0;
  vi.stubGlobal('fetch', (request: Request) => {
    asked++;
    const body = new ReadableStream<Uint8Array>({ start: (c) => void (wire = c) });
    request.signal.addEventListener('abort', () => wire.error(request.signal.reason));
    return Promise.resolve(new Response(body, { headers: { 'Content-Type': 'application/x-ndjson' } }));
  });
  const tell = (x: Of<'CutsSheet'>) => wire.enqueue(new TextEncoder().encode(JSON.stringify(x) + '\n'));
  const other = planOf({ product: 'cable:b', name: 'Cable B' });
  show(<CutPlans job={{ ...view(), id: 'j-looking' }} />);
  await waitFor(() => expect(asked).toBe(1));
  tell({ plans: [planOf({ bought: 150, bound: 100, exact: false }), other], at: 0, done: false });
  await screen.findByText(/Looking at 1 of 2: Cable A. 150\sm so far; no plan takes less than 100\sm/);
  tell({ plans: [planOf({ bought: 100, bound: 100 }), other], at: 1, done: false });
  await screen.findByText(/Looking at 2 of 2: Cable B/);
  fireEvent.click(screen.getByRole('button', { name: 'Take the best so far' }));
  await screen.findByText('Stopped: these are the best cut plans so far.');
  expect(screen.getByText(/100\sm is the least/)).toBeTruthy();

  fireEvent.click(screen.getByRole('button', { name: 'Look for better ones' }));
  await waitFor(() => expect(asked).toBe(2));
  tell({ plans: [planOf({ bought: 100, bound: 100 }), other], at: 2, done: true });
  wire.close();
  await waitFor(() => expect(document.querySelector('[data-looking]')).toBeNull());
});

test('equal parts of a run stand in one row, from the mark of the first to that of the last', async () => {
  const bar: Of<'CutBar'> = {
    length: 50,
    bought: true,
    left: 23,
    cuts: [
      cut({}),
      cut({ start: 5, end: 10 }),
      cut({ for: 'Cooker', from: 'Board A', to: 'hob', share: false, length: 17, start: 10, end: 27 }),
    ],
  };
  const plan = planOf({ bars: [bar] });
  serve({ [`/api/jobs/${view().id}/cuts`]: { plans: [plan], at: 1, done: true } });
  show(<CutPlans job={view()} />);
  await screen.findByText('Cable A');
  const rows = screen.getAllByRole('row').map((r) => r.textContent);
  expect(rows).toHaveLength(4);
  expect(rows[1]).toContain('1–2. Ring');
  expect(rows[1]).toContain('0 – 10');
  expect(rows[2]).toContain('3. Cooker');
  expect(rows[3]).toContain('23');
});

test('the list by place names each thing with all that it takes', () => {
  const ask = (forWhom: string, need: number): Of<'TakeAsk'> => ({
    key: forWhom + need,
    by: { circuit: '', room: '', board: '', enclosure: '', run: '' },
    for: forWhom,
    need,
    rule: 'counted',
    assumed: false,
    steps: [],
    brought: null,
    lacks: false,
  });
  const of = (name: string, asks: Of<'TakeAsk'>[]) => ({ key: name, name, unit: 'pcs', asks }) as Of<'TakeLine'>;
  show(<ByAsker lines={[of('Box', [ask('Kitchen', 3), ask('Hall', 1)]), of('Socket', [ask('Kitchen', 2)])]} />);
  const rows = screen.getAllByRole('row').map((r) => r.textContent);
  expect(rows).toEqual(['ProductNeededRule', 'Kitchen', 'Box3\u00a0pcscounted', 'Socket2\u00a0pcscounted', 'Hall', 'Box1\u00a0pcscounted']);
});
