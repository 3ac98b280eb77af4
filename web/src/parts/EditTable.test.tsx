import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import type { Part } from '../api/part';
import { put } from '../api/paths';
import { EditTable } from './EditTable';

interface Line {
  name: string;
  watts: number | null;
  kind: string;
}

const saves: Line[][] = [];

function Table({ start }: { start: Line[] }) {
  const [body, setBody] = useState({ items: start });
  const save = (path: string, value: unknown) => {
    const next = put(body, path, value);
    setBody(next);
    saves.push(next.items);
  };
  const part = {
    name: 'loads',
    value: body,
    frozen: false,
    status: 'saved',
    summary: '',
    errors: {},
    set: (p, v) => setBody(put(body, p, v)),
    commit: () => {},
    save,
    keepMine: () => {},
    takeTheirs: () => {},
  } as Part;
  return (
    <EditTable
      part={part}
      path="items"
      label="Loads"
      add="Add a load"
      newRow={() => ({ name: 'new', watts: null, kind: 'a' })}
      columns={[
        { key: 'name', label: 'Name' },
        { key: 'watts', label: 'Power', unit: 'W', kind: 'number', optional: true },
        {
          key: 'kind',
          label: 'Kind',
          kind: 'choice',
          options: [
            { id: 'a', name: 'Alpha' },
            { id: 'b', name: 'Beta' },
          ],
        },
      ]}
    />
  );
}

beforeEach(() => saves.splice(0));
const cell = (name: string) => screen.getByLabelText<HTMLInputElement>(name);

test('a pasted block fills the cells, reads names of choices and adds rows', () => {
  render(<Table start={[{ name: 'x', watts: 1, kind: 'a' }]} />);
  fireEvent.paste(cell('Name, row 1'), { clipboardData: { getData: () => 'Oven\t3200\tBeta\r\nLamp\t60,5\tnonsense\n' } });
  expect(saves.at(-1)).toEqual([
    { name: 'Oven', watts: 3200, kind: 'b' },
    { name: 'Lamp', watts: 60.5, kind: 'a' },
  ]);
});

test('what is not a number stays in the cell, is said, and does not reach the part', () => {
  render(<Table start={[{ name: 'x', watts: 7, kind: 'a' }]} />);
  fireEvent.change(cell('Power W, row 1'), { target: { value: 'lots' } });
  expect(cell('Power W, row 1').value).toBe('lots');
  expect(screen.getByText('“lots” is not a number')).toBeTruthy();
  fireEvent.keyDown(cell('Power W, row 1'), { key: 'Escape' });
  expect(cell('Power W, row 1').value).toBe('7');
});

test('rows are added and removed', () => {
  render(<Table start={[]} />);
  expect(screen.getByText('Nothing here yet.')).toBeTruthy();
  fireEvent.click(screen.getByText('Add a load'));
  expect(saves.at(-1)).toHaveLength(1);
  fireEvent.click(screen.getByLabelText('Remove row 1'));
  expect(saves.at(-1)).toHaveLength(0);
});

const items = (n: number): Line[] => Array.from({ length: n }, (_, i) => ({ name: `n${i + 1}`, watts: i, kind: i % 2 ? 'b' : 'a' }));

test('rows are selected, a range of them with Shift, copied by the names of choices and taken off together', async () => {
  const copied = vi.fn(() => Promise.resolve());
  vi.stubGlobal('navigator', { ...navigator, clipboard: { writeText: copied } });
  render(<Table start={items(6)} />);
  fireEvent.click(screen.getByLabelText('Select row 2'));
  expect(screen.getByText('1 row selected')).toBeTruthy();
  fireEvent.click(screen.getByLabelText('Select row 4'), { shiftKey: true });
  expect(screen.getByText('3 rows selected')).toBeTruthy();
  fireEvent.click(screen.getByLabelText('Select row 3'));
  fireEvent.click(screen.getByText('Copy them'));
  expect(copied).toHaveBeenCalledWith('n2\t1\tBeta\nn4\t3\tBeta');
  fireEvent.click(screen.getByText('Remove them'));
  expect(saves.at(-1)?.map((r) => r.name)).toEqual(['n1', 'n3', 'n5', 'n6']);
  expect(screen.queryByText(/selected/)).toBeNull();
  fireEvent.click(screen.getByLabelText('Select every row'));
  expect(screen.getByText('4 rows selected')).toBeTruthy();
  fireEvent.click(screen.getByText('Select none'));
  expect(screen.queryByText(/selected/)).toBeNull();
  await Promise.resolve();
});

test('of a long table only what is seen is drawn, but for paper, and a key leads on', async () => {
  const height = vi.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(38); // which jsdom does not lay out
  render(<Table start={items(300)} />);
  const drawn = () => screen.getAllByLabelText(/^Name, row/).length;
  expect(drawn()).toBeLessThan(80);
  fireEvent.keyDown(cell('Name, row 1'), { key: 'ArrowDown' });
  await waitFor(() => expect(document.activeElement).toBe(cell('Name, row 2')));
  act(() => void window.dispatchEvent(new Event('beforeprint')));
  expect(drawn()).toBe(300);
  act(() => void window.dispatchEvent(new Event('afterprint')));
  expect(drawn()).toBeLessThan(80);
  height.mockRestore();
});

test('a block is pasted into what lies deeper in a row', () => {
  const saved: unknown[] = [];
  const part = {
    name: 'supply',
    value: { bonds: [{ service: 'water', mm2: { value: 1, basis: '' } }] },
    errors: {},
    frozen: false,
    set: () => {},
    commit: () => {},
    save: (_: string, v: unknown) => saved.push(v),
  } as unknown as Part;
  render(
    <EditTable
      part={part}
      path="bonds"
      label="Bonds"
      add="Add"
      newRow={() => ({ service: '', mm2: { value: null, basis: '' } })}
      columns={[
        { key: 'service', label: 'Service' },
        { key: 'mm2.value', label: 'Bond', kind: 'number' },
      ]}
    />,
  );
  fireEvent.paste(cell('Service, row 1'), { clipboardData: { getData: () => 'gas\t10\noil\t6\n' } });
  expect(saved).toEqual([
    [
      { service: 'gas', mm2: { value: 10, basis: '' } },
      { service: 'oil', mm2: { value: 6, basis: '' } },
    ],
  ]);
});
