import { render, screen } from '@testing-library/react';
import { WallDrawing } from './WallDrawing';

const feet = (m: number) => `${Math.round(m / 0.3048)} ft`;

test('each wall line stands beside the next, to scale, with its receptacles', () => {
  render(
    <WallDrawing
      show={feet}
      walls={[
        { lengthM: 3.048, counter: false, has: 1 },
        { lengthM: 6.096, counter: true, has: 2 },
      ]}
    />,
  );
  const drawing = screen.getByRole('img');
  expect(drawing.getAttribute('aria-label')).toBe('Wall lines: 10 ft, 1 receptacles; counter 20 ft, 2 receptacles');
  expect(drawing.querySelectorAll('circle')).toHaveLength(3);
  const width = (l: Element) => Number(l.getAttribute('x2')) - Number(l.getAttribute('x1'));
  const [wall, counter] = [...drawing.querySelectorAll('line[stroke-width="4"]')];
  expect(width(counter)).toBeCloseTo(2 * width(wall), 6);
});

test('nothing is drawn without walls', () => {
  render(<WallDrawing show={feet} walls={[]} />);
  expect(screen.queryByRole('img')).toBeNull();
});
