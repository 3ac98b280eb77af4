import { QueryClient, QueryClientProvider, useQueryClient } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import type { Of } from '../api/client';
import { ownerNow } from '../api/own';
import { useSend } from '../api/queue';
import { FrameProvider } from '../frame/Shell';
import sample from './sample.json';

// A small job for tests of components, and a server that records what is sent.

// Empty ones of what the tests fill in, as the server writes them (api/contract).
const empty = sample as unknown as {
  job: Of<'Job'>;
  room: Of<'Room'>;
  point: Of<'RoomPoint'>;
  circuit: Of<'Circuit'>;
  record: Of<'Record'>;
  enclosure: Of<'Enclosure'>;
  testRow: Of<'TestRow'>;
  task: Of<'Task'>;
  check: Of<'Check'>;
  view: Of<'View'>;
  who: Record<string, Pick<Of<'View'>, 'may' | 'holds' | 'supervises'>>;
};

/** What somebody of a role may do who is authorised as is usual for it. */
export const as = (role: string) => empty.who[role];

export const record = (r: Partial<Of<'Record'>>): Of<'Record'> => ({
  ...empty.record,
  id: 'r1',
  kind: 'reading',
  at: '2026-05-04T09:00:00Z',
  by: 'Vik',
  role: 'electrician',
  ...r,
});

/** A room of the walk with nothing in it yet. */
export const emptyRoom = (name: string, kind = ''): Of<'Room'> => ({ ...empty.room, id: 'r1', name, kind, at: 1 });

export const testRow = (r: Partial<Of<'TestRow'>>): Of<'TestRow'> => ({
  ...empty.testRow,
  id: 'zs',
  circuit: 'c1',
  title: 'Loop impedance',
  live: true,
  unit: 'Ω',
  where: 'At the point.',
  caution: 'Live work.',
  verdict: 'unknown',
  ...r,
});

export const task = (t: Partial<Of<'Task'>>): Of<'Task'> => ({
  ...empty.task,
  id: 'c1-board',
  stage: 'second fix',
  circuit: 'c1',
  title: 'Terminate at the board',
  crew: 1,
  hours: 1,
  isolation: true,
  staysLive: 'The incoming terminals stay live.',
  ...t,
});

export const check = (c: Partial<Of<'Check'>>): Of<'Check'> => ({
  ...empty.check,
  id: 'voltage-drop',
  rule: 'voltage-drop',
  sheet: 'circuits',
  circuit: 'c1',
  title: 'Voltage drop',
  verdict: 'pass',
  unit: '%',
  ...c,
});

export function view(change: Partial<Of<'View'>> = {}, job: Partial<Of<'Job'>> = {}): Of<'JobView'> {
  const v = empty.view;
  return {
    id: 'job-1',
    tag: 'tag-1',
    version: 1,
    versions: {},
    signedRevisions: [],
    view: {
      ...v,
      ...as('supervisor'),
      job: { ...empty.job, ...job },
      tests: { ...v.tests, verdict: 'unknown' },
      state: { ...v.state, stage: 'test' },
      walk: { ...v.walk, house: { ...v.walk.house, name: 'House' } },
      revision: 'A',
      ...change,
    },
  };
}

/** Sends what waits, as the page does. */
function Sends() {
  useSend(useQueryClient(), ownerNow());
  return null;
}

/** Shows a component inside the frame, signed in with a role. */
export function show(ui: ReactNode, role = 'supervisor') {
  const me = {
    id: 'p',
    name: 'Vik',
    email: 'v@firm.example',
    role,
    company: 'Firm',
    companyId: 'f',
    demo: false,
    open: false,
    starts: role !== 'apprentice',
    manages: role !== 'apprentice' && role !== 'electrician',
    decides: role === 'owner' || role === 'supervisor',
    owns: role === 'owner',
    authorities: [],
    locale: 'en-GB',
    timezone: 'UTC',
    currency: '€',
  };
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter>
        <Sends />
        <FrameProvider value={{ me, mode: 'light', setMode: () => {} }}>{ui}</FrameProvider>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

export interface Sent {
  method: string;
  path: string;
  body: Record<string, unknown>;
}

const noJobs: Of<'JobPage'> = { jobs: [], total: 0, exact: true, next: '' };

/** Stands in for the server: answers reads from the table, and every write with the job or a problem. */
export function serve(reads: Record<string, unknown> = {}, refuse?: Of<'Problem'>): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (request.method === 'GET')
      return new Response(JSON.stringify(reads[path] ?? (path === '/api/jobs' ? noJobs : [])), {
        headers: { 'Content-Type': 'application/json' },
      });
    sent.push({ method: request.method, path, body: JSON.parse((await request.text()) || 'null') as Record<string, unknown> });
    return refuse
      ? new Response(JSON.stringify(refuse), { status: refuse.status, headers: { 'Content-Type': 'application/problem+json' } })
      : new Response(JSON.stringify(reads[`${request.method} ${path}`] ?? view()), { headers: { 'Content-Type': 'application/json' } });
  });
  return sent;
}
