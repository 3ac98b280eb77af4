import { Button } from '@mui/material';
import { rowSelectionFeature, tableFeatures, useTable, type ColumnDef } from '@tanstack/react-table';
import { useMemo, useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import type { Part } from '../api/part';
import { get, put, type At, type ItemOf, type Path } from '../api/paths';
import { say } from '../words/words';
import { copiedAs, isSaid, prepared, readCell, unitOf, type Column, type Said } from './column';
import { EditCell, type Typing } from './EditCell';
import { Quiet, Scroll, Td, Th } from './layout';
import { useSizes } from './practice';
import { useRowWindow } from './rowWindow';
import { Grid, Nothing, Selection } from './tableGrid';
import { useScale } from './units';

// A table driven from the keyboard: arrows move, Enter saves and goes down, Tab goes right, Esc puts
// back. A block pasted from a spreadsheet fills from the cell it is pasted into and adds the rows
// that it needs. Rows are selected with a tick, a range of them with Shift, and copied or taken off
// together. On a phone each row is a card; of a long table only what is seen is drawn.

const features = tableFeatures({ rowSelectionFeature });

interface Props<T, P extends Path<T>> {
  part: Part<T>;
  path: P; // of a list
  columns: (Column<ItemOf<At<T, P>>> | Said<ItemOf<At<T, P>>>)[];
  label: string;
  /** Makes a row that is added; without it the rows are what a sheet worked out: none is added or taken off. */
  newRow?: (rows: ItemOf<At<T, P>>[]) => ItemOf<At<T, P>>;
  add?: string;
  least?: number;
  nameOf?: (row: ItemOf<At<T, P>>) => string; // of a row, which begins the names of its fields
  group?: (row: ItemOf<At<T, P>>) => string; // the heading that a row stands under
}

/** What is drawn one under the other: a row, or the heading of those that follow. */
type Line = { row: number; heading?: undefined } | { heading: string; row: number };

const linesOf = <R,>(rows: R[], group?: (row: R) => string): Line[] =>
  rows.flatMap((row, i): Line[] => {
    const heading = group?.(row);
    return heading !== undefined && (i === 0 || group?.(rows[i - 1]) !== heading) ? [{ heading, row: i }, { row: i }] : [{ row: i }];
  });

/** A list of a part as a table that is edited where it stands. */
export function EditTable<T, P extends Path<T>>({
  part: of,
  path,
  columns: given,
  label,
  newRow,
  add,
  least = 0,
  nameOf,
  group,
}: Props<T, P>) {
  type R = ItemOf<At<T, P>> & object;
  const part: Part = of; // what it writes lies below the path
  const scaleOf = useScale();
  const sizes = useSizes();
  const all = (given as (Column<R> | Said<R>)[]).map((asked) => (isSaid(asked) ? asked : prepared(asked, sizes, scaleOf)));
  const columns = all.filter((col): col is Column<R> => !isSaid(col));
  const known = get(part.value, path) as R[] | null | undefined;
  const rows = useMemo(() => known ?? [], [known]);
  const keys = columns.map((c) => c.key).join(' ');
  const defs = useMemo(() => keys.split(' ').map((id): ColumnDef<typeof features, R> => ({ id })), [keys]);
  const table = useTable({ features, columns: defs, data: rows });
  const body = useRef<HTMLTableSectionElement>(null);
  const lines = useMemo(() => linesOf(rows, group as ((row: R) => string) | undefined), [rows, group]);
  const windowed = useRowWindow(lines.length, body);
  const [typing, setTyping] = useState<Typing>();
  const before = useRef<{ at: string; value: unknown }>(undefined); // of the cell that has the focus
  const focus = (r: number, c: number) => {
    windowed.reveal(lines.findIndex((l) => l.row === r));
    const cell = () => body.current?.querySelector<HTMLElement>(`[data-cell="${r},${c}"]`);
    if (cell()) return cell()?.focus();
    // A row out of sight is drawn first; whoever has gone elsewhere meanwhile stays there.
    const left = document.activeElement;
    window.setTimeout(() => (document.activeElement === left || document.activeElement === document.body) && cell()?.focus(), 0);
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
      while (newRow && next.length <= r + i) next.push(newRow(next) as R);
      if (!next[r + i]) return;
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
  const picks = !!newRow && rows.length > 1 && !part.frozen;
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
              {all.map((col) =>
                isSaid(col) ? (
                  <Th key={col.label} scope="col" className={col.figure ? 'num' : undefined} width={col.width} aria-label={col.label}>
                    {!col.bare && col.label}
                  </Th>
                ) : (
                  <Th
                    key={col.key}
                    scope="col"
                    className={col.kind === 'number' ? 'num' : undefined}
                    width={col.width}
                    least={col.keep ? col.width : undefined}
                  >
                    {col.label}
                    {unitOf(col) && <Quiet> {unitOf(col)}</Quiet>}
                  </Th>
                ),
              )}
              {newRow && <th className="off" aria-label={say('remove')} />}
            </tr>
          </thead>
          <tbody ref={body}>
            {windowed.above > 0 && <tr aria-hidden style={{ height: windowed.above }} />}
            {windowed.drawn.map((at) => {
              const { row: r, heading } = lines[at] ?? {};
              const row = model[r];
              if (!row) return null;
              if (heading !== undefined)
                return (
                  <tr key={`heading ${r}`} data-index={at} ref={windowed.measure}>
                    <th className="group" scope="rowgroup" colSpan={all.length}>
                      {heading}
                    </th>
                  </tr>
                );
              const name = nameOf?.(row.original);
              return (
                <tr
                  key={name ?? row.id}
                  data-index={at}
                  data-row={name}
                  ref={windowed.measure}
                  data-selected={row.getIsSelected() || undefined}
                >
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
                  {all.map((col) => {
                    if (isSaid(col))
                      return (
                        <Td
                          key={col.label}
                          className={col.figure ? 'num' : undefined}
                          data-lead={col.lead || undefined}
                          data-empty={col.wide || undefined}
                          data-label={col.lead || col.bare ? undefined : col.label}
                        >
                          {col.show(row.original)}
                        </Td>
                      );
                    if (col.hide?.(row.original)) return <td key={col.key} data-empty />;
                    const at = `${path}[${r}].${col.key}`;
                    const c = columns.indexOf(col);
                    const unit = col.unitOf?.(row.original);
                    const own = unit ? { ...col, unit, scale: scaleOf(unit) } : col;
                    const value = get(row.original, col.key);
                    return (
                      <td key={col.key} data-label={col.label + (unitOf(own) ? ` ${unitOf(own)}` : '')}>
                        <EditCell
                          part={part}
                          col={own}
                          at={at}
                          name={name === undefined ? at : `${name}/${col.key}`}
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
                  {newRow && (
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
                  )}
                </tr>
              );
            })}
            {windowed.below > 0 && <tr aria-hidden style={{ height: windowed.below }} />}
          </tbody>
        </Grid>
        {rows.length === 0 && <Nothing>{say('Nothing here yet.')}</Nothing>}
        {newRow && add && (
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
        )}
      </Scroll>
    </>
  );
}
