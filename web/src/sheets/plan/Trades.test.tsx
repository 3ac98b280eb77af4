import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { emptyRoom, serve, show, view } from '../../testing/fixture';
import { PlanSheet } from './PlanSheet';

afterEach(() => vi.unstubAllGlobals());

const trade: Of<'Trade'> = {
  id: 't1',
  kind: 'plasterer',
  what: 'skim',
  who: 'Quoin',
  phone: '',
  rooms: ['r1'],
  waits: 'second',
  asked: '',
  promised: '',
  done: '',
  known: '',
  by: '',
  needs: '',
  dryDays: 0,
};
const stand: Of<'TradeStand'> = {
  id: 't1',
  name: 'Plasterer (Quoin)',
  rooms: 'Den',
  says: 'Waits for others: not asked yet.',
  ready: '',
  done: false,
  late: true,
  clash: 'Ours is planned before it.',
  returns: false,
};

function sheet() {
  const plan = { ...view().view.job!.plan, trades: [trade] };
  const job = view({ trades: [stand] }, { rooms: [emptyRoom('Den')], plan });
  return <PlanSheet job={job} j={job.view.job!} open={() => {}} />;
}

test('a trade stands with what it holds and what clashes, and its rooms are ticked', async () => {
  const sent = serve({
    '/api/terms': { locale: 'en-GB', survey: { rooms: [] }, trades: [{ id: 'plasterer', name: 'Plasterer' }], tradeWaits: [] },
    '/api/jobs/job-1/links': [],
  });
  show(sheet());
  const card = await waitFor(() => document.querySelector('[data-trade="t1"]')!);
  expect(card.textContent).toContain('Quoin · skim · Den');
  expect(card.textContent).toContain('Ours is planned before it.');
  fireEvent.click(screen.getByRole('checkbox', { name: 'Den' }));
  await waitFor(() => expect(sent.length).toBe(1));
  expect((sent[0].body as Of<'Plan'>).trades[0].rooms).toEqual([]);
});

test('a link for a trade is shown once, and those that are good can be withdrawn', async () => {
  const link = {
    id: 'l1',
    kind: 'trade',
    jobId: 'j1',
    subject: 't1',
    called: '',
    by: 'Vik',
    at: '2026-05-04T08:00:00Z',
    until: '2026-07-04T08:00:00Z',
    readAt: null,
  };
  const sent = serve({
    '/api/terms': { locale: 'en-GB', survey: { rooms: [] }, trades: [], tradeWaits: [] },
    '/api/jobs/job-1/links': [link],
    'POST /api/jobs/job-1/links': { link: '/with#SECRET', shared: link },
    'DELETE /api/links/l1': null,
  });
  show(sheet());
  fireEvent.click(await screen.findByText('Make a link for them'));
  await waitFor(() => expect(document.querySelector('[data-fresh-link]')!.textContent).toContain('/with#SECRET'));
  expect(sent[0].body).toEqual({ kind: 'trade', subject: 't1' });
  fireEvent.click(screen.getByRole('button', { name: 'Withdraw' }));
  await waitFor(() => expect(sent.some((s) => s.method === 'DELETE' && s.path === '/api/links/l1')).toBe(true));
});

test('what the server does not take of a trade stands at its field', async () => {
  const says = 'by what it is known that it is done';
  serve(
    { '/api/terms': { locale: 'en-GB', survey: { rooms: [] }, trades: [], tradeWaits: [] }, '/api/jobs/job-1/links': [] },
    { status: 422, title: 'not taken', fields: [{ field: 'plan.trades[0].known', value: '', accept: says }] },
  );
  show(sheet());
  const done = await screen.findByLabelText('Done on');
  fireEvent.change(done, { target: { value: '2026-05-02' } });
  fireEvent.blur(done);
  await waitFor(() =>
    expect(document.querySelector('[data-path="trades[0].known"]')!.closest('.MuiTextField-root')!.textContent).toContain(says),
  );
});
