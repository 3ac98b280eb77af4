import { fireEvent, render, screen } from '@testing-library/react';
import type { Part } from '../api/part';
import { FactBox, NumberInput, YesNoBox } from './fields';
import { SaveLine } from './SaveLine';

const part = (value: unknown, more: Partial<Part> = {}): Part => ({
  name: 'supply',
  value,
  frozen: false,
  status: 'saved',
  summary: '',
  errors: {},
  set: vi.fn(),
  commit: vi.fn(),
  save: vi.fn(),
  keepMine: vi.fn(),
  takeTheirs: vi.fn(),
  ...more,
});

describe('a number', () => {
  const box = (value: number | null, onValue = vi.fn(), onDone = vi.fn()) => (
    <NumberInput label="Length" unit="m" value={value} onValue={onValue} onDone={onDone} />
  );
  const field = () => screen.getByLabelText<HTMLInputElement>('Length, m');

  test('keeps text that is no number, says so, and does not save it', () => {
    const onValue = vi.fn();
    const onDone = vi.fn();
    render(box(4, onValue, onDone));
    fireEvent.change(field(), { target: { value: '4 or 5' } });
    fireEvent.blur(field());
    expect(field().value).toBe('4 or 5');
    expect(screen.getByText(/is not a number: give a number in m/)).toBeTruthy();
    expect(onValue).not.toHaveBeenCalled();
    expect(onDone).not.toHaveBeenCalled();
  });

  test('takes over what others saved, but not while one types the same number', () => {
    const { rerender } = render(box(4));
    fireEvent.change(field(), { target: { value: '12.' } });
    rerender(box(12)); // one's own typing comes back as 12
    expect(field().value).toBe('12.');
    rerender(box(7)); // another's value
    expect(field().value).toBe('7');
  });

  test('Esc puts back what was there', () => {
    const onValue = vi.fn();
    render(box(4, onValue));
    fireEvent.focus(field());
    fireEvent.change(field(), { target: { value: '99' } });
    fireEvent.keyDown(field(), { key: 'Escape' });
    expect(field().value).toBe('4');
    expect(onValue).toHaveBeenLastCalledWith(4);
  });

  test('is needed unless it may be absent', () => {
    render(box(4));
    fireEvent.change(field(), { target: { value: '' } });
    expect(screen.getByText('A number is needed.')).toBeTruthy();
  });
});

test.each([
  [{ value: 0.3, basis: 'assumed', note: '' }, /assumed: to be confirmed/],
  [{ value: 0.3, basis: '', note: '' }, /assumed: to be confirmed/],
  [{ value: null, basis: '', note: '' }, /not recorded/],
])('a figure that nobody confirmed is marked: %j', (fact, summary) => {
  render(<FactBox part={part({ ze: fact })} path="ze" label="Ze" unit="Ω" />);
  expect(screen.getByText(summary)).toBeTruthy();
});

test('a measured figure carries no mark', () => {
  render(<FactBox part={part({ ze: { value: 0.3, basis: 'measured', note: 'at the head' } })} path="ze" label="Ze" unit="Ω" />);
  expect(screen.queryByText(/assumed: to/)).toBeNull();
  expect(screen.getByText('at the head')).toBeTruthy();
});

test('yes, no and not yet known are three different answers', () => {
  const p = part({ dc: null });
  render(<YesNoBox part={p} path="dc" label="Detects" />);
  const box = screen.getByLabelText<HTMLSelectElement>('Detects');
  expect(box.value).toBe('');
  fireEvent.change(box, { target: { value: 'no' } });
  expect(p.save).toHaveBeenLastCalledWith('dc', false);
  fireEvent.change(box, { target: { value: '' } });
  expect(p.save).toHaveBeenLastCalledWith('dc', null);
});

test('a clash lists only the fields that differ, mine and theirs', () => {
  const p = part(
    { town: 'Mine', phone: '1' },
    { status: 'conflict', theirs: { by: 'Dot', at: '2026-05-04T09:00:00Z', version: 3, body: { town: 'Theirs', phone: '1' } } },
  );
  render(<SaveLine part={p} />);
  expect(screen.getByRole('alert').textContent).toContain('Dot');
  const cells = [...document.querySelectorAll('tbody td')].map((c) => c.textContent);
  expect(cells).toEqual(['town', 'Mine', 'Theirs']);
  fireEvent.click(screen.getByText('Keep theirs'));
  expect(p.takeTheirs).toHaveBeenCalled();
});
