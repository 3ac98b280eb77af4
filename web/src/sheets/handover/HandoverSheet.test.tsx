import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { ownerNow } from '../../api/own';
import { as, record, serve, show, task, view } from '../../testing/fixture';
import { HandoverSheet } from './HandoverSheet';

afterEach(() => vi.unstubAllGlobals());

const ready = (missing: number): Of<'Readiness'> => ({
  items: missing
    ? [{ title: 'Every test passed', ready: false, sheet: 'test', who: 'electrician', summary: 'Loop impedance' }]
    : [{ title: 'Every test passed', ready: true, sheet: 'test', who: '', summary: '' }],
  missing,
  assumed: ['prospective fault current'],
  ready: missing === 0,
});

const sign = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Sign revision A' });

test('a missing thing links to where it is mended, and nobody signs', () => {
  serve();
  const job = view({ ready: ready(1) });
  show(<HandoverSheet job={job} j={job.view.job!} open={() => {}} />);
  expect(screen.getByRole<HTMLAnchorElement>('link', { name: 'Test' }).getAttribute('href')).toBe('/jobs/job-1/test');
  expect(sign().disabled).toBe(true);
  expect(screen.getByText(/prospective fault current/)).toBeTruthy();
});

test.each(['owner', 'electrician', 'apprentice', 'office'])('%s does not sign, however ready it is', (role) => {
  serve();
  const job = view({ ...as(role), ready: ready(0) });
  show(<HandoverSheet job={job} j={job.view.job!} open={() => {}} />, role);
  expect(sign().disabled).toBe(true);
  expect(screen.getByText(/You are not authorised to sign/)).toBeTruthy();
});

test('the supervisor signs what is ready, and a refusal is said', async () => {
  const sent = serve({}, { status: 409, title: 'Not ready to sign: somebody undid a tick.' });
  const job = view({ ready: ready(0) });
  show(<HandoverSheet job={job} j={job.view.job!} open={() => {}} />);
  expect(sign().disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Your password, again'), { target: { value: 'tin kettle on a slow train' } });
  fireEvent.click(sign());
  await screen.findByText(/somebody undid a tick/);
  expect(sent[0]).toMatchObject({ path: '/api/jobs/job-1/sign', body: { password: 'tin kettle on a slow train', note: '' } });
  expect(screen.getByLabelText<HTMLInputElement>('Your password, again').value).toBe('');
});

test('a signed revision is opened again only by the owner or the supervisor', async () => {
  const seals = [{ revision: 'A', by: 'Mo', role: 'supervisor', at: '2026-05-04T09:00:00Z', prev: '', hash: 'abc123' }];
  const sent = serve();
  const seen = (role: string) => {
    const job = view({ ...as(role), ready: ready(0), frozen: true }, { seals });
    return show(<HandoverSheet job={job} j={job.view.job!} open={() => {}} />, role);
  };
  const { unmount } = seen('electrician');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Open a new revision' }).disabled).toBe(true);
  expect(screen.getByText(/SHA-256 abc123/)).toBeTruthy();
  unmount();
  seen('owner');
  fireEvent.click(screen.getByRole('button', { name: 'Open a new revision' }));
  await waitFor(() => expect(sent[0].body).toMatchObject({ kind: 'reopen' }));
});

test('a step that somebody else takes says whose it is', () => {
  serve();
  const job = view({
    ready: ready(1),
    tasks: [task({ id: 'final', stage: 'handover', title: 'Final inspection', who: 'inspector' })],
  });
  show(<HandoverSheet job={job} j={job.view.job!} open={() => {}} />);
  expect(screen.getByRole('heading', { name: 'Handover steps' })).toBeTruthy();
  expect(screen.getByText(/inspector/)).toBeTruthy();
  expect(screen.queryByText('With the owner')).toBeNull();
});

test('a signed job takes what is looked after, with whether it was in order', async () => {
  const seals = [{ revision: 'A', by: 'Mo', role: 'supervisor', at: '2026-05-04T09:00:00Z', prev: '', hash: 'abc123' }];
  const sent = serve({
    '/api/session': { id: 'p1', locale: 'en-GB' },
    '/api/terms': { locale: 'en-GB', aftercare: [{ id: 'storm-check', name: 'Looked at after a storm' }], together: [] },
  });
  const records = [record({ kind: 'aftercare', subject: 'storm-check', passed: false, note: 'gland wet' })];
  const job = view({ ready: ready(0), frozen: true }, { seals, records });
  show(<HandoverSheet job={job} j={job.view.job!} open={() => {}} />, 'electrician');
  await waitFor(() => expect(ownerNow()).toBe('p1'));
  expect(await screen.findByText(/Looked at after a storm: gland wet/)).toBeTruthy();
  fireEvent.change(screen.getByLabelText('What was looked after'), { target: { value: 'storm-check' } });
  fireEvent.change(screen.getByLabelText('What was seen and done'), { target: { value: 'dry, lid tight' } });
  const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Record' });
  expect(keep().disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('In order?'), { target: { value: 'yes' } });
  fireEvent.click(keep());
  await waitFor(() => expect(sent.map((s) => s.body.kind)).toContain('aftercare'));
  expect(sent.find((s) => s.body.kind === 'aftercare')?.body).toMatchObject({
    subject: 'storm-check',
    passed: true,
    note: 'dry, lid tight',
  });
});
