import { render, screen } from '@testing-library/react';
import type { Of } from '../api/client';
import { HeadroomBar } from './HeadroomBar';
import { Mark } from './Mark';

test('each verdict has a shape of its own and says its word', () => {
  const shapes = (['pass', 'caution', 'fail', 'unknown'] as const).map((v) =>
    render(<Mark verdict={v} />)
      .container.querySelector('svg')
      ?.innerHTML.replace(/var\(--\w+\)/g, ''),
  );
  expect(new Set(shapes).size).toBe(4); // different without their colours
  expect(screen.getByLabelText('not recorded')).toBeTruthy();
});

test('the headroom bar says what is left, and what is over', () => {
  const check = (use: number) =>
    ({ id: 'x', value: use * 5, limit: 5, unit: '%', use, verdict: use > 1 ? 'fail' : 'pass' }) as unknown as Of<'Check'>;
  render(<HeadroomBar check={check(0.6)} />);
  expect(screen.getByText('40 % left')).toBeTruthy();
  render(<HeadroomBar check={check(1.75)} />);
  expect(screen.getByText('75 % over')).toBeTruthy();
});
