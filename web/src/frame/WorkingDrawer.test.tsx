import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { check } from '../testing/fixture';
import { WorkingDrawer } from './WorkingDrawer';

const failed = check({
  verdict: 'fail',
  summary: '20.09 V is 8.7 %.',
  value: 8.7,
  limit: 5,
  sense: 'max',
  use: 1.74,
  steps: [{ symbol: 'circuit', formula: 'mV/A/m × Ib × L', with: '11 × 32 × 57', value: 20.09, unit: 'V', source: 'Table 4D4B' }],
  sources: [{ ref: 'Appendix 4', confidence: 'high' }],
  assumed: ['length of the lane'],
  remedies: [
    {
      title: '10 mm² in place of 4 mm²',
      effect: '3.5 %',
      extra: 170.2,
      sets: [{ part: 'circuits/c1', field: 'route.lineMM2', value: 10 }],
    },
  ],
});

test('shows the numbers put in, the sources, what is assumed and what would mend it', () => {
  const take = vi.fn();
  render(<WorkingDrawer check={failed} currency="€" onClose={() => {}} onTake={take} />);
  const text = document.body.textContent?.replace(/\u00a0/g, ' ');
  for (const part of [
    '11 × 32 × 57',
    '20.09 V',
    'Table 4D4B',
    'Appendix 4',
    'confidence high',
    'length of the lane',
    '+€ 170.20',
    '8.7 %, at most 5 %',
  ])
    expect(text).toContain(part);
  fireEvent.click(screen.getByText('Apply'));
  expect(take).toHaveBeenCalledWith(failed.remedies[0]);
});

test('a signed job offers nothing to take, and a failure without a cure says so', () => {
  render(<WorkingDrawer check={failed} currency="€" onClose={() => {}} />);
  expect(screen.queryByText('Apply')).toBeNull();
  render(<WorkingDrawer check={check({ verdict: 'fail' })} currency="€" onClose={() => {}} />);
  expect(screen.getByText(/No single change was found/)).toBeTruthy();
});

test('what is not yet known names what is missing; Esc closes', () => {
  const close = vi.fn();
  render(<WorkingDrawer check={check({ verdict: 'unknown', missing: ['the main fuse rating'] })} currency="€" onClose={close} />);
  expect(screen.getByText(/the main fuse rating/)).toBeTruthy();
  fireEvent.keyDown(screen.getByLabelText('Working of Voltage drop'), { key: 'Escape' });
  expect(close).toHaveBeenCalled();
});

it('says what waits for it, and for a lack only what is put into service and signed', () => {
  const holds = { rule: 'voltage-drop', fails: ['order', 'sign'], unknown: ['sign'] };
  render(<WorkingDrawer check={check({ verdict: 'fail' })} edition="2023" holds={holds} currency="€" onClose={() => {}} />);
  expect(document.querySelector('[data-holds]')?.textContent).toBe('Held until it passes: order, sign.');
  expect(screen.getByText('Judged by the edition 2023.')).toBeTruthy();
  cleanup();
  render(<WorkingDrawer check={check({ verdict: 'unknown' })} holds={holds} currency="€" onClose={() => {}} />);
  expect(document.querySelector('[data-holds]')?.textContent).toBe('Held until it passes: sign.');
  cleanup();
  render(<WorkingDrawer check={check({ verdict: 'pass' })} holds={holds} currency="€" onClose={() => {}} />);
  expect(document.querySelector('[data-holds]')).toBeNull();
});
