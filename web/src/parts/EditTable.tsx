import { Button } from '@mui/material';
import { styled } from '@mui/material/styles';
import { rowSelectionFeature, tableFeatures, useTable, type ColumnDef } from '@tanstack/react-table';
import { useMemo, useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import type { Part } from '../api/part';
import { get, put, type At, type ItemOf, type Path } from '../api/paths';
import { say } from '../words/words';
import { copiedAs, prepared, readCell, unitOf, type Column } from './column';
import { EditCell, type Typing } from './EditCell';
import { Quiet, Row, Scroll, SheetTable } from './layout';
import { useSizes } from './practice';
import { useRowWindow } from './rowWindow';
import { useScale } from './units';

// A table driven from the keyboard: arrows move, Enter saves and goes down, Tab goes right, Esc puts
// back. A block pasted from a spreadsheet fills from the cell it is pasted into and adds the rows
// that it needs. Rows are selected with a tick, a range of them with Shift, and copied or taken off
// together. On a phone each row is a card; of a long table only what is seen is drawn.

const Grid = styled(SheetTable)({
  '& .pick': { width: 26 },
  '& .pick > input': { width: 18, height: 18, opacity: 0.45 },
  '& tr:hover .pick > input, & .pick > input:focus, & .pick > input:checked': { opacity: 1 },
  '& .off': { width: 40 },
  '& .off > button': {
    border: 0,
    background: 'transparent',
    color: 'var(--ink2)',
    font: 'inherit',
    minWidth: 32,
    minHeight: 32,
    cursor: 'pointer',
  },
  '& tr[data-selected]': { background: 'var(--wash)' },
  '@media print': { '& .pick, & .off': { display: 'none' } },
  '@media (max-width:600px)': {
    '&& td[data-label]': { display: 'grid', gridTemplateColumns: '40% 1fr', alignItems: 'center', flex: '1 0 100%' },
    '& th.pick': { display: 'none' },
    '&& td.pick': { order: -1 },
    '& .pick > input': { width: 24, height: 24, margin: '10px 4px', opacity: 1 },
    '&& td.off': { marginLeft: 'auto', order: -1 },
    '& .off > button': { minWidth: 44, minHeight: 44, fontSize: '1.2em' },
    '&& td[data-empty]': { display: 'none' },
  },
});

const Selection = styled(Row)({
  position: 'sticky',
  top: 52, // below the frame
  zIndex: 2,
  background: 'var(--paper)',
  padding: '4px 0',
  '@media print': { display: 'none' },
});

const Nothing = styled('p')({ color: 'var(--ink2)', margin: '8px 0' });

const features = tableFeatures({ rowSelectionFeature });

interface Props<T, P extends Path<T>> {
  part: Part<T>;
  path: P; // of a list
  columns: Column<ItemOf<At<T, P>>>[];
  label: string;
  newRow: (rows: ItemOf<At<T, P>>[]) => ItemOf<At<T, P>>;
  add: string;
  least?: number;
}

/** A list of a part as a table that is edited where it stands. */
export function EditTable<T, P extends Path<T>>({ part: of, path, columns: given, label, newRow, add, least = 0 }: Props<T, P>) {
  type R = ItemOf<At<T, P>> & object;
  const part: Part = of; // what it writes lies below the path
  const scaleOf = useScale();
  const sizes = useSizes();
  const columns = given.map((asked) => prepared(asked as Column<R>, sizes, scaleOf));
  const known = get(part.value, path) as R[] | null | undefined;
  const rows = useMemo(() => known ?? [], [known]);
  const keys = columns.map((c) => c.key).join(' ');
  const defs = useMemo(() => keys.split(' ').map((id): ColumnDef<typeof features, R> => ({ id })), [keys]);
  const table = useTable({ features, columns: defs, data: rows });
  const body = useRef<HTMLTableSectionElement>(null);
  const windowed = useRowWindow(rows.length, body);
  const [typing, setTyping] = useState<Typing>();
  const before = useRef<{ at: string; value: unknown }>(undefined); // of the cell that has the focus
  const focus = (r: number, c: number) => {
    windowed.reveal(r);
    window.setTimeout(() => body.current?.querySelector<HTMLElement>(`[data-cell="${r},${c}"]`)?.focus(), 0);
  };
  const onKey = (e: KeyboardEvent, r: number, c: number) => {
    const input = e.currentTarget as HTMLInputElement;
    const go = (dr: number, dc: number) => {
      e.preventDefault();
      focus(Math.min(Math.max(r + dr, 0), rows.length - 1), Math.min(Math.max(c + dc, 0), columns.length - 1));
    };
    const inText = input.tagName === 'INPUT' && input.type === 'text';
    if (e.key === 'Enter') {
      if (typing && readCell(columns[c], typing.text) !== undefined) setTyping(undefined);
      part.commit();
      go(1, 0);
    } else if (e.key === 'Escape') {
      setTyping(undefined);
      if (before.current) part.set(before.current.at, before.current.value);
    } else if (input.tagName !== 'SELECT' && e.key === 'ArrowDown') go(1, 0);
    else if (input.tagName !== 'SELECT' && e.key === 'ArrowUp') go(-1, 0);
    else if (e.key === 'ArrowRight' && (!inText || input.selectionStart === input.value.length)) go(0, 1);
    else if (e.key === 'ArrowLeft' && (!inText || input.selectionEnd === 0)) go(0, -1);
  };
  const onPaste = (e: ClipboardEvent, r: number, c: number) => {
    const text = e.clipboardData.getData('text/plain').replace(/\r/g, '').replace(/\n$/, '');
    if (!/[\t\n]/.test(text)) return;
    e.preventDefault();
    const next = [...rows];
    text.split('\n').forEach((line, i) => {
      while (next.length <= r + i) next.push(newRow(next) as R);
      line.split('\t').forEach((cell, k) => {
        const col = columns[c + k];
        const v = col ? readCell(col, cell) : undefined;
        if (col && v !== undefined) next[r + i] = put(next[r + i], col.key, v);
      });
    });
    setTyping(undefined);
    part.save(path, next);
  };
  const takeOff = (gone: (row: number) => boolean) => {
    table.resetRowSelection();
    part.save(
      path,
      rows.filter((_, i) => !gone(i)),
    );
  };
  const selected = table.getSelectedRowModel().rows.map((row) => row.index);
  const picks = rows.length > 1 && !part.frozen;
  const model = table.getRowModel().rows;
  return (
    <>
      {selected.length > 0 && (
        <Selection role="status" data-selection={selected.length}>
          <span>{selected.length === 1 ? say('1 row selected') : say('{{n}} rows selected', { n: selected.length })}</span>
          <Button
            size="small"
            onClick={() =>
              void navigator.clipboard.writeText(
                selected.map((r) => columns.map((col) => copiedAs(col, get(rows[r], col.key))).join('\t')).join('\n'),
              )
            }
          >
            {say('Copy them')}
          </Button>
          <Button size="small" disabled={rows.length - selected.length < least} onClick={() => takeOff((r) => selected.includes(r))}>
            {say('Remove them')}
          </Button>
          <Button size="small" onClick={() => table.resetRowSelection()}>
            {say('Select none')}
          </Button>
        </Selection>
      )}
      <Scroll>
        <Grid aria-label={say(label)} data-cards>
          <thead>
            <tr>
              {picks && (
                <th className="pick">
                  <input
                    type="checkbox"
                    aria-label={say('Select every row')}
                    checked={table.getIsAllRowsSelected()}
                    onChange={table.getToggleAllRowsSelectedHandler()}
                  />
                </th>
              )}
              {columns.map((col) => (
                <th
                  key={col.key}
                  scope="col"
                  className={col.kind === 'number' ? 'num' : undefined}
                  style={{ width: col.width, minWidth: col.keep ? col.width : undefined }}
                >
                  {col.label}
                  {unitOf(col) && <Quiet> {unitOf(col)}</Quiet>}
                </th>
              ))}
              <th className="off" aria-label={say('remove')} />
            </tr>
          </thead>
          <tbody ref={body}>
            {windowed.above > 0 && <tr aria-hidden style={{ height: windowed.above }} />}
            {windowed.drawn.map((r) => {
              const row = model[r];
              if (!row) return null;
              return (
                <tr key={row.id} data-index={r} ref={windowed.measure} data-selected={row.getIsSelected() || undefined}>
                  {picks && (
                    <td className="pick">
                      <input
                        type="checkbox"
                        aria-label={say('Select row {{r}}', { r: r + 1 })}
                        checked={row.getIsSelected()}
                        onChange={row.getToggleSelectedHandler()}
                      />
                    </td>
                  )}
                  {columns.map((col, c) => {
                    if (col.hide?.(row.original)) return <td key={col.key} data-empty />;
                    const at = `${path}[${r}].${col.key}`;
                    const value = get(row.original, col.key);
                    return (
                      <td key={col.key} data-label={col.label + (unitOf(col) ? ` ${unitOf(col)}` : '')}>
                        <EditCell
                          part={part}
                          col={col}
                          at={at}
                          value={value}
                          place={[r, c]}
                          typing={typing}
                          onTyping={setTyping}
                          onFocus={() => (before.current = { at, value })}
                          onKey={(e) => onKey(e, r, c)}
                          onPaste={(e) => onPaste(e, r, c)}
                        />
                      </td>
                    );
                  })}
                  <td className="off">
                    <button
                      type="button"
                      aria-label={say('Remove row {{r}}', { r: r + 1 })}
                      disabled={part.frozen || rows.length <= least}
                      onClick={() => takeOff((i) => i === r)}
                    >
                      ×
                    </button>
                  </td>
                </tr>
              );
            })}
            {windowed.below > 0 && <tr aria-hidden style={{ height: windowed.below }} />}
          </tbody>
        </Grid>
        {rows.length === 0 && <Nothing>{say('Nothing here yet.')}</Nothing>}
        <Button
          className="no-print"
          sx={{ mt: 1 }}
          disabled={part.frozen}
          onClick={() => {
            part.save(path, [...rows, newRow(rows)]);
            focus(rows.length, 0);
          }}
        >
          {say(add)}
        </Button>
      </Scroll>
    </>
  );
}
