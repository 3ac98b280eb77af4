import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import { serve, show, view } from '../../testing/fixture';
import { DemandLeaf } from './DemandLeaf';
import { DeskLeaf } from './DeskLeaf';
import { IsolationLeaf } from './IsolationLeaf';
import { OutageLeaf } from './OutageLeaf';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  localStorage.clear();
});

const route = (r: Partial<Of<'IsolationRoute'>>): Of<'IsolationRoute'> => ({
  id: 'operator',
  title: 'The operator pulls the fuse',
  offered: true,
  onDay: false,
  why: 'It is on site.',
  asks: ['supply number'],
  visits: 2,
  leadDays: 21,
  leadSays: 'usually 21 days',
  charge: 95,
  earliest: '2026-12-16',
  chosen: false,
  source: '',
  ...r,
});

const plan: Of<'OutagePlan'> = {
  steps: [],
  day: '',
  start: '08:00',
  offAt: '',
  onAt: '',
  darkH: 0,
  endAt: '',
  noReturn: '',
  turn: '',
  earliest: '2026-12-19',
  why: 'Not before 2026-12-19: 1 pcs of Board still to come.',
  causes: [],
  checks: [],
  ready: false,
  sunrise: '',
  sunset: '',
  sun: '',
  late: false,
  off: '',
  weather: [],
  running: null,
};

const supply = (s: Partial<Of<'SupplySheet'>>): Of<'SupplySheet'> => ({
  chain: { nodes: [], jumpers: [], checks: [], kinds: [], verdict: 'pass', rule: '', earth: 'earth', unit: 'mm²' },
  routes: [],
  number: { number: '', verdict: 'unknown', summary: '', steps: [], source: '' },
  standby: { frames: [], darkS: 0, afterS: 0, summary: '' },
  outage: plan,
  ...s,
});

const job = view();
const j = job.view.job as Of<'Job'>;

describe('ways to isolate', () => {
  it('offers the lawful ones with charge and earliest day, and only says why of the others', async () => {
    const sent = serve({
      '/api/jobs/job-1/supply': supply({
        routes: [
          route({}),
          route({ id: 'pull', title: 'Pull it yourself', offered: false, why: 'Not offered: it is sealed.', charge: null, earliest: '' }),
        ],
      }),
    });
    show(<IsolationLeaf job={job} j={j} />);
    await screen.findByText('Not offered: it is sealed.');
    expect(screen.getByText('2026-12-16')).toBeTruthy();
    expect(screen.getByText(/95\.00/)).toBeTruthy();
    expect(screen.getAllByText('Choose')).toHaveLength(1);
    fireEvent.click(screen.getByText('Choose'));
    await waitFor(() => expect((sent.at(-1)?.body as { route?: string })?.route).toBe('operator'));
  });
});

describe("the operator's desk", () => {
  const letter = (kind: string, missing: string[]): Of<'DeskLetter'> => ({
    kind,
    title: `Ask for ${kind}`,
    facts: [{ id: 'number', name: 'Supply number', value: missing.length ? 'not yet known' : '99', missing: missing.length > 0 }],
    missing,
    note: '',
    photos: [],
  });
  const sheet = (s: Partial<Of<'DeskSheet'>>): Of<'DeskSheet'> => ({
    connected: true,
    kinds: [
      { id: 'isolator', title: 'Ask for isolator', path: 'asked' },
      { id: 'crew', title: 'Ask for crew', path: 'asked' },
    ],
    letters: [letter('isolator', []), letter('crew', ['the day of the outage'])],
    messages: [],
    ...s,
  });

  it('sends a letter that has its facts, and holds back one that lacks them', async () => {
    const sent = serve({ '/api/jobs/job-1/desk': sheet({}) });
    show(<DeskLeaf job={job} j={j} />);
    fireEvent.click(await screen.findByText('Ask for crew'));
    expect(screen.getByText(/Still needed: the day of the outage/)).toBeTruthy();
    expect(screen.getByText<HTMLButtonElement>('Send it').disabled).toBe(true);
    fireEvent.click(screen.getAllByText('Ask for isolator')[0]);
    fireEvent.change(screen.getByLabelText('In your words, beside the facts'), { target: { value: 'ready' } });
    fireEvent.click(screen.getByText('Send it'));
    await waitFor(() => expect(sent.at(-1)).toMatchObject({ path: '/api/jobs/job-1/desk', body: { kind: 'isolator', note: 'ready' } }));
  });

  it('sends nothing where no desk is connected', async () => {
    serve({ '/api/jobs/job-1/desk': sheet({ connected: false }) });
    show(<DeskLeaf job={job} j={j} />);
    fireEvent.click(await screen.findByText('Ask for isolator'));
    expect(screen.getByText('no desk is connected')).toBeTruthy();
    expect(screen.getByText<HTMLButtonElement>('Send it').disabled).toBe(true);
  });

  it('says how a message stands, and takes a booked day over only when it is pressed', async () => {
    const message: Of<'DeskMessage'> = {
      id: 'm',
      kind: 'isolator',
      letter: letter('isolator', []),
      state: 'booked',
      tries: 2,
      trouble: '',
      answer: {
        state: 'booked',
        reference: 'SIM-1',
        person: 'R. Vantry',
        message: 'A crew is booked.',
        day: '2026-12-20',
        simulated: true,
      },
      at: '2026-11-25T10:00:00Z',
      by: 'Dot',
    };
    const sent = serve({
      '/api/jobs/job-1/desk': sheet({
        messages: [message, { ...message, id: 'n', state: 'waiting', answer: null, trouble: 'the desk does not answer' }],
      }),
    });
    show(<DeskLeaf job={job} j={j} />);
    await screen.findByText(/SIM-1/);
    expect(screen.getByText(/\(simulated desk\)/)).toBeTruthy();
    expect(screen.getByText(/tried 2 times, tried again by itself/)).toBeTruthy();
    expect(sent).toHaveLength(0);
    fireEvent.click(screen.getByText('Record 2026-12-20 as booked'));
    await waitFor(() => expect((sent.at(-1)?.body as { bookedOn?: string })?.bookedOn).toBe('2026-12-20'));
  });
});

describe('the outage', () => {
  it('says the earliest day and why, what is open, and how the day goes', async () => {
    serve({
      '/api/jobs/job-1/supply': supply({
        outage: {
          ...plan,
          causes: [
            { what: 'Board', date: '2026-12-19', summary: '1 pcs of Board still to come', holds: true },
            { what: 'Cable', date: '', summary: '5 m of cable still to come', holds: false },
          ],
          checks: [
            {
              id: 'light',
              what: 'Light at the board',
              summary: 'not yet said',
              state: 'unknown',
              sheet: 'supply',
              may: false,
              released: '',
            },
            { id: 'parts', what: 'Parts', summary: 'all 3 lines', state: 'pass', sheet: 'materials', may: true, released: '' },
          ],
          steps: [
            {
              id: 'outage-isolate',
              title: 'Isolate',
              from: 0,
              to: 0.5,
              clock: '08:00 – 08:30',
              crew: 1,
              hours: 0.5,
              dark: true,
              drop: false,
              caution: 'Prove dead.',
              done: true,
              doneAt: null,
              lateH: 1,
              backH: 0.25,
              onH: 4,
            },
          ],
          running: {
            now: '10:40',
            lateH: 1,
            next: 'Strip out',
            backOn: '15:25',
            summary: '1 h behind.',
            drop: ['labels (saves 0.5 h)'],
            beyond: true,
            started: true,
          },
        },
      }),
    });
    show(<OutageLeaf job={job} j={j} />);
    await screen.findByText(/Not before 2026-12-19/);
    expect(screen.getByText('· holds the day')).toBeTruthy();
    expect(screen.getByText('1 open')).toBeTruthy();
    expect(screen.getByText(/Drop first: labels/)).toBeTruthy();
    expect(screen.getByText(/Beyond the point of turning back/)).toBeTruthy();
    expect(screen.getByText(/1 h late/)).toBeTruthy();
    expect(screen.getByText('Prove dead.')).toBeTruthy();
  });
});

describe('the demand', () => {
  it('puts what is new on top of what was there, by what it is, largest first', async () => {
    const job = view();
    const demand: Of<'Demand'> = {
      shares: [
        { category: 'lighting', name: 'Lighting', amps: 2, new: false, full: false },
        { category: 'cooker', name: 'Cooking', amps: 16.9, new: false, full: false },
        { category: 'lighting', name: 'Lighting', amps: 1.5, new: true, full: false },
        { category: 'ev', name: 'Charge point', amps: 32, new: true, full: true },
      ],
      beforeA: 18.9,
      addedA: 33.5,
      afterA: 52.4,
      fuseA: 60,
    };
    serve({ [`/api/jobs/${job.id}/circuits`]: { version: 1, report: { job: [], circuits: [], demand, verdict: 'pass', notice: '' } } });
    show(<DemandLeaf job={job} j={job.view.job as Of<'Job'>} open={() => {}} />);
    await screen.findByText('Cooking');
    const rows = [...document.querySelectorAll('tr[data-share]')].map((r) =>
      [...r.querySelectorAll('td')].slice(0, 3).map((d) => d.textContent?.replaceAll('\u00a0', ' ').trim()),
    );
    expect(rows).toEqual([
      ['Charge point in full, no diversity', '0 A', '32 A'],
      ['Cooking', '16.9 A', '16.9 A'],
      ['Lighting', '2 A', '3.5 A'],
      ['Together of 60 A', '18.9 A', '52.4 A'],
    ]);
  });
});
