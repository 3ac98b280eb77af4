import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import type { Of } from '../api/client';
import { FrameProvider } from '../frame/Shell';

// A small job for tests of components, and a server that records what is sent.

const none = { value: null, basis: '', note: '' } as const;

export const record = (r: Partial<Of<'Record'>>): Of<'Record'> => ({
  id: 'r1',
  kind: 'reading',
  at: '2026-05-04T09:00:00Z',
  by: 'Vik',
  role: 'electrician',
  supersedes: '',
  subject: '',
  circuit: '',
  done: false,
  note: '',
  value: null,
  unit: '',
  overRange: false,
  passed: null,
  couldNot: '',
  instrument: '',
  calibrated: '',
  tempC: null,
  source: '',
  lockTag: '',
  tester: '',
  provedBefore: false,
  pairsDead: [],
  provedAfter: false,
  stillLive: '',
  path: '',
  reference: '',
  person: '',
  ...r,
});

/** A room of the walk with nothing in it yet. */
export const emptyRoom = (name: string, kind = ''): Of<'Room'> => ({
  id: 'r1',
  name,
  kind,
  floor: '',
  at: 1,
  points: [],
  from: '',
  legs: [],
  wall: '',
  under: '',
  ceiling: '',
  answered: {},
  skipped: '',
  bath: { fitted: '', bonded: null, bondMM2: none, mainBondOhm: none, noMetal: false, jets: null },
  walls: [],
  revisit: '',
  closed: '',
  note: '',
});

export const testRow = (r: Partial<Of<'TestRow'>>): Of<'TestRow'> => ({
  id: 'zs',
  circuit: 'c1',
  title: 'Loop impedance',
  live: true,
  yesNo: false,
  patterns: [],
  asksTemp: false,
  unit: 'Ω',
  where: 'At the point.',
  caution: 'Live work.',
  verdict: 'unknown',
  summary: '',
  expected: null,
  reading: null,
  testV: [],
  beside: [],
  earlier: [],
  closed: '',
  explain: false,
  ...r,
});

export const task = (t: Partial<Of<'Task'>>): Of<'Task'> => ({
  id: 'c1-board',
  stage: 'second fix',
  circuit: 'c1',
  title: 'Terminate at the board',
  crew: 1,
  hours: 1,
  who: '',
  after: [],
  isolation: true,
  staysLive: 'The incoming terminals stay live.',
  caution: '',
  done: false,
  doneBy: '',
  doneAt: null,
  closed: '',
  photo: false,
  note: '',
  ...t,
});

export const check = (c: Partial<Of<'Check'>>): Of<'Check'> => ({
  id: 'voltage-drop',
  rule: 'voltage-drop',
  sheet: 'circuits',
  circuit: 'c1',
  title: 'Voltage drop',
  verdict: 'pass',
  summary: '',
  unit: '%',
  steps: [],
  sources: [],
  assumed: [],
  missing: [],
  remedies: [],
  ...c,
});

const group: Of<'PointGroup'> = {
  id: '',
  name: 'House',
  total: { kind: '', name: '', family: '', new: 0, kept: 0, moved: 0, removed: 0 },
  counts: [],
};

export function view(change: Partial<Of<'View'>> = {}, job: Partial<Of<'Job'>> = {}): Of<'JobView'> {
  const j: Of<'Job'> = {
    format: 'arvelt-job/1',
    ref: 'T-1',
    title: 'Test',
    kind: 'ev-charger',
    practice: 'iec230',
    edition: '2022',
    site: {
      customer: 'C',
      phone: '',
      email: '',
      address: 'A',
      town: '',
      premises: '',
      access: '',
      hazards: '',
      extent: '',
      limits: '',
      others: '',
    },
    supply: {
      earthing: 'TN-C-S',
      earthingBy: '',
      earthTo: '',
      earthLaid: '',
      declaredV: 230,
      zeOhm: none,
      pfcKA: none,
      mainFuseA: none,
      mainFuseType: '',
      tailsMM2: none,
      tailsM: none,
      earthMM2: none,
      neutralMM2: none,
      electrodeOhm: none,
      bonds: [],
      noExtraneous: false,
      intersystem: null,
      operator: '',
      number: '',
      meterSerial: '',
      registered: '',
      condition: '',
    },
    board: {
      name: 'A',
      location: '',
      place: '',
      conditionalKA: 0,
      material: '',
      mainSwitchA: none,
      ways: [],
      groups: [],
      makerRDF: 0,
      space: { depthMM: 0, widthMM: 0, heightMM: 0, boardMM: 0, topMM: 0, handleMM: 0, door90: null },
    },
    standby: {
      source: '',
      automatic: false,
      sourceVA: 0,
      senseS: 0,
      crankS: 0,
      warmS: 0,
      switchS: 0,
      returnS: 0,
      coolS: 0,
      carries: [],
    },
    loads: { items: [], areaM2: none, basementM2: none, peakKVA: none, peakDays: 0, seasonFactor: 0, generation: null },
    circuits: [],
    rooms: [],
    found: {
      board: {
        made: '',
        edition: '',
        combustible: null,
        escapeRoute: null,
        above: '',
        residual: '',
        doubleTapped: '',
        openWays: null,
        arrester: '',
        note: '',
        near: '',
        covers: '',
        built: null,
        rewired: null,
      },
      circuits: [],
      hazards: [],
      answered: {},
    },
    chain: { enclosures: [] },
    bench: { kept: [] },
    surge: {
      environment: '',
      flashes: none,
      overheadLV: 0,
      cableLV: 0,
      overheadHV: 0,
      cableHV: 0,
      unknownRest: false,
      rod: false,
      exposed: false,
      consequence: '',
      ownerAccepts: '',
      devices: [],
    },
    outage: {
      route: '',
      authorised: { name: '', number: '', until: '' },
      leadDays: null,
      charge: null,
      askedOn: '',
      bookedOn: '',
      day: '',
      start: '',
      crew: 0,
      latitude: null,
      longitude: null,
      inspector: { needed: null, who: '', on: '' },
      temporary: [],
      noTemporary: false,
      lightReady: null,
      weather: { rainMM: null, windMS: null, tempC: null, source: '' },
    },
    outdoor: {
      runs: [],
      electrodes: { soil: '', soilOhmM: none, rods: [], measured: none, method: '', moisture: '', continuous: null, ruling: '' },
    },
    materials: { wastagePc: 5, lines: {} },
    plan: { startDate: '', tasks: {} },
    schools: { options: {}, local: [] },
    records: [],
    seals: [],
    ...job,
  };
  return {
    id: 'job-1',
    tag: 'tag-1',
    version: 1,
    versions: {},
    signedRevisions: [],
    view: {
      job: j,
      take: { lines: [], total: 0, unpriced: 0, troubles: [] },
      tasks: [],
      tests: { rows: [], isolation: null, locks: [], energised: null, mayEnergise: '', asks: [], deadDone: false, verdict: 'unknown' },
      state: { stage: 'test', holds: [], waits: {}, joints: {} },
      ready: { items: [], missing: 0, assumed: [], ready: false },
      loose: [],
      cleared: [],
      walk: { rooms: [], floors: [], house: group, questions: [], unread: 0, skipped: 0 },
      revision: 'A',
      frozen: false,
      ...change,
    },
  };
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
    locale: 'en-GB',
    timezone: 'UTC',
    currency: '€',
  };
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter>
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
    sent.push({ method: request.method, path, body: JSON.parse((await request.text()) || 'null') });
    return refuse
      ? new Response(JSON.stringify(refuse), { status: refuse.status, headers: { 'Content-Type': 'application/problem+json' } })
      : new Response(JSON.stringify(view()), { headers: { 'Content-Type': 'application/json' } });
  });
  return sent;
}
