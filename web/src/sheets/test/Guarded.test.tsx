import { fireEvent, screen, waitFor } from '@testing-library/react';
import { serve, show, view } from '../../testing/fixture';
import { Guarded } from './Guarded';
import { OffOnCards } from './OffOnCards';

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

const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));
const device = (id: string, name: string) => ({ id, kind: 'switch', name, at: 'Board A', poles: 'all poles', note: '', automatic: false });

const main = { id: 'main', name: 'Main switch', at: 'Board A' };
const lights = { id: 'circuit:c1', name: 'Lights', at: 'Board A' };

const tests = () => ({
  ...view().view.tests,
  devices: [device('main', 'Main switch'), device('circuit:c1', 'Lights')],
  guard: {
    asks: [{ id: 'apart', title: 'Ends apart' }],
    waits: [{ why: 'The lock of Mo is in place', sheet: 'test', circuit: '' }],
  },
  cards: { off: [lights, main], emergency: [main], on: [main, lights] },
});

test('a guarded energising is one record, with who stands guard and what was read', async () => {
  const sent = serve({ '/api/company': company });
  show(<Guarded job={view({ tests: tests(), may: ['guarded'] })} />, 'electrician');
  expect(screen.getByText(/The lock of Mo is in place/)).toBeTruthy();
  const found = screen.getByRole<HTMLButtonElement>('button', { name: 'It is the feed' });
  fireEvent.change(screen.getByLabelText(/Which device is closed/), { target: { value: 'circuit:c1' } });
  expect(screen.queryByText(/The lock of Mo is in place/)).toBeNull();
  for (const [label, value] of [
    ['Who stands guard', 'Remy'],
    ['Pair and place', 'grey pair, loft hatch'],
    ['Read, V', '231,5'],
  ]) {
    fireEvent.change(screen.getByLabelText(label), { target: { value } });
  }
  await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>('Instrument').options.length).toBeGreaterThan(1));
  const instrument = screen.getByLabelText<HTMLSelectElement>('Instrument');
  fireEvent.change(instrument, { target: { value: instrument.options[1].value } });
  expect(found.disabled).toBe(true);
  fireEvent.click(screen.getByLabelText('Ends apart'));
  expect(found.disabled).toBe(false);
  press('It is the feed');
  await waitFor(() =>
    expect(sent[0].body).toMatchObject({
      kind: 'guarded',
      subject: 'circuit:c1',
      person: 'Remy',
      value: 231.5,
      passed: true,
      confirmed: ['apart'],
    }),
  );
});

test('the cards stand in their order', () => {
  serve({});
  show(<OffOnCards job={view({ tests: tests() })} />, 'electrician');
  const order = () => [...document.querySelectorAll('[data-card]')].map((e) => e.getAttribute('data-card'));
  expect(order()).toEqual(['circuit:c1', 'main']);
  press('Off, emergency');
  expect(order()).toEqual(['main']);
  press('On');
  expect(order()).toEqual(['main', 'circuit:c1']);
});
