import { fireEvent, render, screen } from '@testing-library/react';
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
