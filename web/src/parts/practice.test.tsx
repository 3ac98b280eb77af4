import { fireEvent, render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import type { Part } from '../api/part';
import { EditTable } from './EditTable';
import { FactBox, NumberBox, TextBox } from './fields';
import { Heading } from './layout';
import { learn, speak } from '../words/words';
import { WordsContext } from './practice';

const words = {
  inches: true,
  sizes: [
    { id: '3.31', name: '12 AWG' },
    { id: '5.261', name: '10 AWG' },
  ],
};

const part = (value: unknown) => ({
  name: 'x',
  value,
  frozen: false,
  status: 'saved',
  errors: {},
  set: vi.fn(),
  commit: vi.fn(),
  save: vi.fn(),
});
beforeEach(async () => {
  await learn('en-US');
  speak('en-US');
});
afterEach(() => speak('en-GB'));
const here = (ui: ReactNode) => render(<WordsContext.Provider value={words}>{ui}</WordsContext.Provider>);

test('labels and headings are in the words of the practice', () => {
  here(
    <>
      <Heading>Main bonding</Heading>
      <TextBox part={part({ way: '3' }) as unknown as Part} path="way" label="Way" />
    </>,
  );
  expect(screen.getByText('Metal pipes and other metal that is bonded')).toBeTruthy();
  expect(screen.getByLabelText('Space')).toBeTruthy();
});

test('metres, degrees and areas are shown and typed in feet, Fahrenheit and square feet, and kept as they are', () => {
  const p = part({ m: 3.048, c: 30, a: 9.290304 });
  here(
    <>
      <NumberBox part={p as unknown as Part} path="m" label="Length" unit="m" />
      <NumberBox part={p as unknown as Part} path="c" label="Ambient" unit="°C" />
      <NumberBox part={p as unknown as Part} path="a" label="Area" unit="m²" />
    </>,
  );
  const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
  expect([field('Length, ft').value, field('Ambient, °F').value, field('Area, ft²').value]).toEqual(['10', '86', '100']);
  fireEvent.change(field('Length, ft'), { target: { value: '20' } });
  expect(p.set).toHaveBeenLastCalledWith('m', 6.096);
  fireEvent.change(field('Ambient, °F'), { target: { value: '104' } });
  expect(p.set).toHaveBeenLastCalledWith('c', 40);
});

test('a conductor size is chosen by its name, and may be taken back', () => {
  const p = part({ f: { value: 3.31, basis: 'measured', note: '' } });
  here(<FactBox part={p as unknown as Part} path="f" label="Bond" unit="mm²" />);
  const box = screen.getByLabelText<HTMLSelectElement>('Bond');
  expect(box.selectedOptions[0].text).toBe('12 AWG');
  fireEvent.change(box, { target: { value: '5.261' } });
  expect(p.save).toHaveBeenLastCalledWith('f.value', 5.261);
  fireEvent.change(box, { target: { value: '' } });
  expect(p.save).toHaveBeenLastCalledWith('f.value', null);
});

test('in a table too, beside a choice of yes, no and not looked', () => {
  const p = part({ rows: [{ mm2: 3.31, seen: null, m: 0.3048 }] });
  here(
    <EditTable
      part={p as unknown as Part}
      path="rows"
      label="Rows"
      add="Add"
      newRow={() => ({ mm2: 0, seen: null, m: 1 })}
      columns={[
        { key: 'mm2', label: 'Size', unit: 'mm²', kind: 'number' },
        {
          key: 'seen',
          label: 'Seen',
          yesNo: true,
        },
        { key: 'm', label: 'Way', unit: 'm', kind: 'number' },
      ]}
    />,
  );
  fireEvent.change(screen.getByLabelText('Size, row 1'), { target: { value: '5.261' } });
  expect(p.save).toHaveBeenLastCalledWith('rows[0].mm2', 5.261);
  fireEvent.change(screen.getByLabelText('Seen, row 1'), { target: { value: 'false' } });
  expect(p.save).toHaveBeenLastCalledWith('rows[0].seen', false);
  expect(screen.getByLabelText<HTMLInputElement>('Space ft, row 1').value).toBe('1');
});
