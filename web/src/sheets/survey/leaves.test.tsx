import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import { record as anyRecord, emptyRoom, serve, show, view } from '../../testing/fixture';
import { CaseForWork } from './CaseForWork';
import { Existing } from './Existing';
import { Scope } from './Scope';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  localStorage.clear();
});

const room = emptyRoom('loom room');
const count = { kind: 'data', name: 'data point', family: 'media', new: 0, kept: 0, moved: 0, removed: 0 };
const record = (r: Partial<Of<'Record'>>) =>
  anyRecord({ id: 'o1', kind: 'observation', by: 'Ada', subject: 'no-bonding', note: 'bare pipe', path: 'C2', ...r });
const finding: Of<'Finding'> = {
  id: 'o1',
  kind: 'no-bonding',
  title: 'Metal services are not bonded',
  class: 'C2',
  urgency: 'soon',
  where: 'scullery',
  seen: 'bare pipe',
  risk: 'two voltages could be touched together',
  evidence: 'seen on the survey',
  softened: '',
  mend: 'main bonding',
  reason: '',
  covered: '',
  shares: '',
  danger: false,
  operator: false,
  circuit: '',
  reported: '',
  notice: '',
  told: '',
  safe: '',
  mended: '',
  price: { low: 110, high: 320 },
  decision: '',
  decided: '',
  photos: [],
  by: 'Ada',
  at: '2026-05-04',
};
const sheet = (s: Partial<Of<'CaseSheet'>>): Of<'CaseSheet'> => ({
  case: { sections: [], count: 0, price: null, unpriced: 0, suggest: [], hint: null, proofs: [] },
  routes: [],
  scope: { agreed: null, variations: [], differences: [], cost: 0, unpriced: 0, unagreed: 0 },
  readings: [],
  later: [],
  setOut: [],
  ways: { rooms: [], columns: 1, rows: 1 },
  tracing: { circuits: [], points: [], open: 0, next: '' },
  ...s,
});
const at = '/api/jobs/job-1/case';

describe('the case for the work', () => {
  const one = sheet({
    case: {
      sections: [{ urgency: 'soon', title: 'Should be rectified soon', summary: '', findings: [finding] }],
      count: 1,
      price: { low: 110, high: 320 },
      unpriced: 1,
      suggest: [],
      hint: null,
      proofs: [],
    },
  });

  it('shows risk, evidence and price, and keeps a decision with who made it', async () => {
    const sent = serve({ [at]: one });
    const job = view();
    show(<CaseForWork job={job} j={job.view.job as Of<'Job'>} />);
    await screen.findByText('two voltages could be touched together');
    expect(screen.getAllByText('€ 110 to 320', { normalizer: (s) => s.replace(/\u00a0/g, ' ') })).toHaveLength(2);
    expect(screen.getByText(/1 are still to be priced/)).toBeTruthy();
    expect(screen.getByText('not decided')).toBeTruthy();
    fireEvent.click(screen.getByText('Declines'));
    fireEvent.change(screen.getByLabelText('Reason, in their words'), { target: { value: 'too dear' } });
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save the decision' }).disabled).toBe(true); // neither signed nor witnessed
    fireEvent.change(screen.getByLabelText('Or who saw it'), { target: { value: 'Remy' } });
    fireEvent.click(screen.getByLabelText('C has signed it'));
    fireEvent.click(screen.getByText('Save the decision'));
    await waitFor(() =>
      expect(sent.at(-1)?.body).toMatchObject({
        kind: 'decision',
        subject: 'o1',
        path: 'declined',
        person: 'C',
        note: 'too dear',
        signed: true,
        witness: '',
      }),
    );
  });

  it('offers to follow up what is graded as a danger, though its evidence does not bear it yet', async () => {
    const soft = { ...finding, danger: true, urgency: 'look', evidence: 'told, not yet seen' };
    serve({
      [at]: sheet({
        case: { ...sheet({}).case, count: 1, sections: [{ urgency: 'look', title: 'To be looked into', summary: '', findings: [soft] }] },
      }),
    });
    const job = view();
    show(<CaseForWork job={job} j={job.view.job as Of<'Job'>} />);
    expect(await screen.findByRole('button', { name: 'Told' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Notice handed over' })).toBeTruthy();
  });

  it('says that there is nothing to show yet', async () => {
    serve({ [at]: sheet({}) });
    const job = view();
    show(<CaseForWork job={job} j={job.view.job as Of<'Job'>} />);
    await screen.findByText(/No findings yet/);
  });
});

describe('findings', () => {
  const terms = {
    survey: {
      findings: [
        {
          id: 'no-bonding',
          title: 'Metal services are not bonded',
          urgency: 'soon',
          needs: 'seen',
          risk: 'risk',
          until: '',
          mend: 'bond',
          work: '',
        },
        { id: 'vermin', title: 'Gnawed cables', urgency: 'advised', needs: 'seen', risk: '', until: '', mend: '', work: '' },
      ],
      classes: [
        { id: 'C2', name: 'C2 · soon', urgency: 'soon', summary: '', source: '' },
        { id: 'C3', name: 'C3 · advised', urgency: 'advised', summary: 'It can wait.', source: '' },
      ],
      readings: [],
      hazards: [],
      colours: [],
    },
  };

  it('are suggested, taken up with their usual class, and never kept by themselves', async () => {
    const sent = serve({
      '/api/terms': terms,
      '/api/company': { prices: [], instruments: [] },
      [at]: sheet({
        case: {
          sections: [],
          count: 0,
          price: null,
          unpriced: 0,
          suggest: [{ kind: 'vermin', title: 'Gnawed cables', why: 'droppings', place: 'eaves', room: '', circuit: '' }],
          hint: null,
          proofs: [],
        },
      }),
    });
    const job = view();
    show(<Existing job={job} j={job.view.job as Of<'Job'>} />);
    fireEvent.click(await screen.findByText('Add'));
    expect(sent).toHaveLength(0);
    expect(screen.getByText('It can wait.')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('How it is known'), { target: { value: 'seen' } });
    fireEvent.change(screen.getByLabelText(/What was seen, in your words/), { target: { value: 'two bare cores' } });
    fireEvent.click(screen.getByText('Save the finding'));
    await waitFor(() =>
      expect(sent.at(-1)?.body).toMatchObject({
        kind: 'observation',
        subject: 'vermin',
        path: 'C3',
        evidence: 'seen',
        place: 'eaves',
        note: 'two bare cores',
      }),
    );
  });

  it('are corrected by a newer one, the older named', async () => {
    const sent = serve({ '/api/terms': terms, '/api/company': { prices: [], instruments: [] }, [at]: sheet({}) });
    const job = view({}, { records: [record({ id: 'o0', note: 'first' }), record({ id: 'o1', supersedes: 'o0', note: 'second' })] });
    show(<Existing job={job} j={job.view.job as Of<'Job'>} />);
    await screen.findByText(/second/);
    expect(screen.queryByText(/first/)).toBeNull();
    fireEvent.click(screen.getByText('Correct'));
    fireEvent.click(screen.getByText('Save the correction'));
    await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ supersedes: 'o1', note: 'second' }));
  });
});

describe('the scope', () => {
  it('is agreed once, by somebody', async () => {
    const sent = serve({ [at]: sheet({}) });
    const job = view({}, { rooms: [room] });
    show(<Scope job={job} j={job.view.job as Of<'Job'>} />);
    fireEvent.click(await screen.findByText('Agree the scope as surveyed'));
    await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ kind: 'scope', person: 'C' }));
  });

  it('shows variations with their effects, what differs, and what nobody agreed to', async () => {
    const variation = record({
      id: 'v',
      kind: 'variation',
      person: 'Ms Roe',
      note: 'adds 2 data',
      room: 'r1',
      cost: 55,
      effects: ['The walls are open.'],
    });
    serve({
      [at]: sheet({
        scope: {
          agreed: record({ id: 's', kind: 'scope', person: 'Ms Roe' }),
          variations: [variation],
          differences: [{ room: 'loom room', name: 'data point', was: count, is: { ...count, new: 2 } }],
          cost: 55,
          unpriced: 0,
          unagreed: 1,
        },
      }),
    });
    const job = view({}, { rooms: [room] });
    show(<Scope job={job} j={job.view.job as Of<'Job'>} />);
    await screen.findByText('The walls are open.');
    expect(screen.getByText(/1 differences were edited into the survey without a variation/)).toBeTruthy();
    expect(screen.getByText('2 new')).toBeTruthy();
    expect(screen.getByText('none')).toBeTruthy();
  });
});
