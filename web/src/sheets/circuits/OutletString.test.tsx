import { screen } from '@testing-library/react';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { serve, show } from '../../testing/fixture';
import { OutletString } from './OutletString';

const box = (b: Partial<Of<'Box'>>): Of<'Box'> => ({
  id: 'b1',
  tag: 0,
  room: '',
  point: '',
  accessible: null,
  takes: 0,
  sealed: null,
  line: '',
  through: null,
  name: 'Loom',
  place: 'garage',
  device: 'plain',
  from: '',
  side: 'line',
  feed: '',
  ratingA: 20,
  single: false,
  ground: true,
  shuttered: true,
  weather: false,
  replaces: false,
  split: false,
  heightMM: 457.2,
  sinkMM: null,
  volumeML: 0,
  cables: 0,
  yokes: 0,
  clamps: false,
  ...b,
});

const report = (r: Partial<Of<'BoxReport'>>): Of<'BoxReport'> => ({
  id: 'b1',
  live: true,
  read: true,
  protected: [],
  needs: [],
  missing: [],
  labels: [],
  fillML: 0,
  darkens: [],
  verdict: 'pass',
  summary: '',
  ...r,
});

const string = (boxes: Of<'Box'>[], reports: Of<'BoxReport'>[], to: string[] = [], off?: (id: string) => void, shared = false) => {
  serve({ '/api/terms': { places: [{ id: 'garage', name: 'garage' }] } });
  const part = {
    name: 'circuits/c1',
    value: {
      serves: { boxes, place: 'garage' },
      protection: { ratingA: 20, rcdType: '', shared: { is: shared, opens: '', secondWay: 0 } },
      route: { segments: to.map((t) => ({ to: t })) },
    },
    frozen: false,
    status: 'saved',
    errors: {},
    set: vi.fn(),
    commit: vi.fn(),
    save: vi.fn<(path: string, boxes: Of<'Box'>[]) => void>(),
  };
  show(<OutletString part={part as unknown as Part<Of<'Circuit'>>} boxes={reports} off={off} />);
  return part;
};

test('the drawing says in words what each box hangs on and whether it is protected', () => {
  string(
    [
      box({ device: 'gfci', feed: 'line' }),
      box({ id: 'b2', name: 'Vat', from: 'b1', side: 'load' }),
      box({ id: 'b3', name: 'Yard', from: 'b1' }),
    ],
    [
      report({ protected: ['b1'], darkens: ['b1', 'b2'] }),
      report({ id: 'b2', protected: ['b1'], labels: ['GFCI Protected'] }),
      report({ id: 'b3', verdict: 'fail', missing: ['ground-fault protection'] }),
    ],
  );
  const summary = screen.getByRole('img', { name: /^Run of outlets/ }).getAttribute('aria-label');
  expect(summary).toContain('Loom, fed from the panel: protected');
  expect(summary).toContain('Vat, fed from Loom off LOAD: protected');
  expect(summary).toContain('Yard, fed from Loom off LINE: not protected');
  const lines = screen.getByRole('list', { name: 'What each box needs and has' });
  expect(lines.textContent).toContain('Also lost when it trips: Vat.');
  expect(lines.textContent).toContain('“GFCI Protected”');
});

test('a device whose marking nobody read protects nothing yet, and a dead one says so', () => {
  string(
    [box({ device: 'gfci' }), box({ id: 'b2', name: 'Vat', device: 'gfci', feed: 'load', from: 'b1', side: 'load' })],
    [report({ read: false, verdict: 'unknown' }), report({ id: 'b2', live: false, verdict: 'fail' })],
  );
  const summary = screen.getByRole('img', { name: /^Run of outlets/ }).getAttribute('aria-label');
  expect(summary).toContain('Loom, fed from the panel: marking not read');
  expect(summary).toContain('Vat, fed from Loom off LOAD: dead as wired');
});

test('a box is added behind the last one', () => {
  const part = string([box({ device: 'gfci', feed: 'line' })], []);
  screen.getByRole('button', { name: 'Add a box' }).click();
  expect(part.save.mock.calls[0][1][1]).toMatchObject({ id: 'b2', from: 'b1', side: '', place: 'garage', ground: null });
});

test('a box that a stretch of the route leads to is taken off its run, any other out of the list', () => {
  const off = vi.fn();
  const two = [box({}), box({ id: 'b2', name: 'Vat', from: 'b1' })];
  const led = string(two, [], ['b1', 'b2'], off);
  screen.getByRole('button', { name: 'Remove row 1' }).click();
  expect(off).toHaveBeenCalledWith('b1');
  expect(led.save).not.toHaveBeenCalled();
});

test('of a run whose route leads nowhere yet the others close over a box that is taken out', () => {
  const off = vi.fn();
  const part = string([box({}), box({ id: 'b2', name: 'Vat', from: 'b1' })], [], [''], off);
  screen.getByRole('button', { name: 'Remove row 1' }).click();
  expect(off).not.toHaveBeenCalled();
  expect(part.save.mock.calls[0][1]).toMatchObject([{ id: 'b2', from: '' }]);
});

test('where two lines share a neutral each box says which feeds it and whether the neutral goes through its device', () => {
  string([box({})], []);
  expect(screen.queryByText('Neutral through the device')).toBeNull();
  string([box({ line: 'b', through: true })], [], [], undefined, true);
  expect(screen.getByText('Neutral through the device')).toBeTruthy();
  expect(screen.getByText('Line')).toBeTruthy();
});
