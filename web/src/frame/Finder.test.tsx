import { fireEvent, screen } from '@testing-library/react';
import { serve, show, view } from '../testing/fixture';
import { Finder } from './Finder';

afterEach(() => vi.unstubAllGlobals());

test('a few letters in any order find; arrows and Enter run', () => {
  serve();
  const runs: string[] = [];
  const close = vi.fn();
  const action = (name: string) => ({ name, hint: 'action', run: () => runs.push(name) });
  show(<Finder job={view()} actions={[action('Dark theme'), action('Sunlight theme')]} onClose={close} />);
  const box = screen.getByRole('combobox');
  expect(screen.getAllByRole('option')[0].textContent).toContain('Survey');
  fireEvent.change(box, { target: { value: 'them act' } });
  expect(screen.getAllByRole('option').map((o) => o.textContent)).toEqual(['Dark theme action', 'Sunlight theme action']);
  fireEvent.keyDown(box, { key: 'ArrowDown' });
  fireEvent.keyDown(box, { key: 'Enter' });
  expect(runs).toEqual(['Sunlight theme']);
  expect(close).toHaveBeenCalled();
  fireEvent.change(box, { target: { value: 'zzz' } });
  expect(screen.getByText('Nothing is called that.')).toBeTruthy();
});
