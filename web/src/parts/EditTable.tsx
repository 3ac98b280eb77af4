import { msg, say } from '../words/words';
import { Button } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import type { Part } from '../api/part';
import { get, textOf, type At, type ItemOf, type Path } from '../api/paths';
import type { Choice } from './choice';
import { parseFigure } from './figure';
import { Quiet, Scroll, SheetTable } from './layout';
import { useSizes } from './practice';
import { kept, shown as inUnit, useScale, type Scale } from './units';

// A table driven from the keyboard: arrows move, Enter saves and goes down, Tab
// goes right, Esc puts back. A block pasted from a spreadsheet fills from the
// cell it is pasted into and adds the rows that it needs.

export interface Column<R> {
  key: Path<R>; // inside the row
  label: string;
  kind?: 'text' | 'number' | 'choice' | 'check';
  unit?: string;
  scale?: Scale; // shown in another unit than it is kept in
  options?: Choice[];
  numeric?: boolean; // a choice that is kept as a number
  yesNo?: boolean; // a choice of yes, no or not looked, which is null
  optional?: boolean; // an empty number is null
  zero?: boolean; // zero is not known or the usual: it is shown and typed as empty
  width?: number;
  keep?: boolean; // never narrower than its width: the table scrolls
  hide?: (row: R) => boolean;
}

const looked: Choice[] = [
  { id: '', name: msg('not looked') },
  { id: 'true', name: msg('yes') },
  { id: 'false', name: msg('no') },
];

const Cell = styled('input')({
  width: '100%',
  font: 'inherit',
  color: 'inherit',
  background: 'transparent',
  border: '1px solid transparent',
  padding: '3px 4px',
  minHeight: 28,
  '&:hover': { borderColor: 'var(--rule2)' },
  '&:focus': { background: 'var(--sheet)', borderColor: 'var(--copper)' },
  '&[aria-invalid=true]': { borderColor: 'var(--brick)' },
  '@media (max-width:700px)': { minHeight: 44, minWidth: 72 },
});

// A size that is not chosen is null where it may be absent, else zero.
const numberOf = (col: { optional?: boolean }, id: string) => (id !== '' ? Number(id) : col.optional ? null : 0);
const chosen = (col: { optional?: boolean; numeric?: boolean; yesNo?: boolean }, id: string): unknown =>
  col.yesNo ? (id === '' ? null : id === 'true') : col.numeric ? numberOf(col, id) : id;

interface Props<T, P extends Path<T>> {
  part: Part<T>;
  path: P; // of a list
  columns: Column<ItemOf<At<T, P>>>[];
  label: string;
  newRow: (rows: ItemOf<At<T, P>>[]) => ItemOf<At<T, P>>;
  add: string;
  least?: number;
}

export function EditTable<T, P extends Path<T>>({ part: of, path, columns: given, label, newRow, add, least = 0 }: Props<T, P>) {
  type R = ItemOf<At<T, P>>;
  const part: Part = of; // what it writes lies below the path
  const scaleOf = useScale();
  const sizes = useSizes();
  // In the words and units of the practice; a conductor size that has a name is chosen by it.
  const columns = given.map((asked): Column<R> => {
    const col: Column<R> = asked.yesNo ? { ...asked, kind: 'choice', options: looked } : asked;
    const label = say(col.label);
    if (col.unit === 'mm²' && sizes.length > 0)
      return { ...col, label, unit: undefined, kind: 'choice', numeric: true, options: [{ id: '', name: '–' }, ...sizes] };
    return { ...col, label, scale: scaleOf(col.unit, col.scale) };
  });
  const rows = (get(part.value, path) as R[] | null) ?? [];
  const body = useRef<HTMLTableSectionElement>(null);
  const [typing, setTyping] = useState<{ at: string; text: string }>();
  const before = useRef<{ at: string; value: unknown }>(undefined); // of the cell that has the focus
  const focus = (r: number, c: number) =>
    window.setTimeout(() => body.current?.querySelector<HTMLElement>(`[data-cell="${r},${c}"]`)?.focus(), 0);

  const read = (col: Column<R>, text: string): unknown => {
    if (col.kind === 'number') {
      const v = parseFigure(text);
      if (v === null) return col.zero ? 0 : col.optional ? null : undefined;
      return v === undefined ? v : kept(v, col.scale);
    }
    if (col.kind === 'check') return /^(1|x|y|yes|true)$/i.test(text.trim());
    if (col.kind === 'choice') {
      const id = col.options?.find((o) => o.id === text.trim() || o.name === text.trim())?.id;
      return id === undefined ? id : chosen(col, id);
    }
    return text;
  };

  const onKey = (e: KeyboardEvent, r: number, c: number) => {
    const input = e.currentTarget as HTMLInputElement;
    const go = (dr: number, dc: number) => {
      e.preventDefault();
      focus(Math.min(Math.max(r + dr, 0), rows.length - 1), Math.min(Math.max(c + dc, 0), columns.length - 1));
    };
    const inText = input.tagName === 'INPUT' && input.type === 'text';
    if (e.key === 'Enter') {
      if (typing && read(columns[c], typing.text) !== undefined) setTyping(undefined);
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
      while (next.length <= r + i) next.push(newRow(next));
      line.split('\t').forEach((cell, k) => {
        const col = columns[c + k];
        const v = col ? read(col, cell) : undefined;
        if (col && v !== undefined) next[r + i] = { ...(next[r + i] as object), [col.key]: v } as R;
      });
    });
    setTyping(undefined);
    part.save(path, next);
  };

  return (
    <Scroll>
      <SheetTable aria-label={say(label)}>
        <thead>
          <tr>
            {columns.map((col) => (
              <th
                key={col.key}
                scope="col"
                className={col.kind === 'number' ? 'num' : undefined}
                style={{ width: col.width, minWidth: col.keep ? col.width : undefined }}
              >
                {col.label}
                {(col.scale?.unit ?? col.unit) && <Quiet> {col.scale?.unit ?? col.unit}</Quiet>}
              </th>
            ))}
            <th aria-label={say('remove')} style={{ width: 40 }} />
          </tr>
        </thead>
        <tbody ref={body}>
          {rows.map((row, r) => (
            <tr key={r}>
              {columns.map((col, c) => {
                const at = `${path}[${r}].${col.key}`;
                const value = get(row, col.key);
                const error = part.errors[`${part.name}.${at}`];
                const common = {
                  'data-cell': `${r},${c}`,
                  'data-path': at,
                  'aria-label': say('{{label}}{{x}}, row {{r}}', {
                    label: col.label,
                    x: (col.scale?.unit ?? col.unit) ? ` ${col.scale?.unit ?? col.unit}` : '',
                    r: r + 1,
                  }),
                  disabled: part.frozen,
                  title: error,
                  'aria-invalid': !!error || undefined,
                  onFocus: () => {
                    before.current = { at, value };
                  },
                  onKeyDown: (e: KeyboardEvent) => onKey(e, r, c),
                };
                if (col.hide?.(row)) return <td key={col.key} />;
                if (col.kind === 'check')
                  return (
                    <td key={col.key}>
                      <input
                        type="checkbox"
                        style={{ width: 20, height: 20 }}
                        checked={!!value}
                        {...common}
                        onChange={(e) => part.save(at, e.target.checked)}
                      />
                    </td>
                  );
                if (col.kind === 'choice')
                  return (
                    <td key={col.key}>
                      <Cell
                        as="select"
                        value={textOf(value)}
                        {...common}
                        onChange={(e: { target: { value: string } }) => part.save(at, chosen(col, e.target.value))}
                      >
                        {!col.options?.some((o) => o.id === textOf(value)) && <option value={textOf(value)}>{textOf(value)}</option>}
                        {col.options?.map((o) => (
                          <option key={o.id} value={o.id}>
                            {say(o.name)}
                          </option>
                        ))}
                      </Cell>
                    </td>
                  );
                const shown =
                  typing?.at === at
                    ? typing.text
                    : value === null || value === undefined || (col.zero && value === 0)
                      ? ''
                      : typeof value === 'number'
                        ? String(inUnit(value, col.scale))
                        : textOf(value);
                const bad = typing?.at === at && col.kind === 'number' && read(col, shown) === undefined;
                return (
                  <td key={col.key}>
                    <Cell
                      type="text"
                      inputMode={col.kind === 'number' ? 'decimal' : undefined}
                      style={{ textAlign: col.kind === 'number' ? 'right' : 'left' }}
                      {...common}
                      aria-invalid={bad || !!error || undefined}
                      value={shown}
                      onPaste={(e) => onPaste(e, r, c)}
                      onChange={(e) => {
                        setTyping({ at, text: e.target.value });
                        const v = read(col, e.target.value);
                        if (v !== undefined) part.set(at, v);
                      }}
                      onBlur={() => {
                        if (!bad) setTyping(undefined);
                        part.commit();
                      }}
                    />
                    {bad && <div style={{ color: 'var(--brick)', fontSize: '.82em' }}>{say('“{{shown}}” is not a number', { shown })}</div>}
                    {error && <div style={{ color: 'var(--brick)', fontSize: '.82em' }}>{error}</div>}
                  </td>
                );
              })}
              <td>
                <button
                  type="button"
                  className="no-print"
                  aria-label={say('Remove row {{r}}', { r: r + 1 })}
                  disabled={part.frozen || rows.length <= least}
                  onClick={() =>
                    part.save(
                      path,
                      rows.filter((_, i) => i !== r),
                    )
                  }
                  style={{
                    border: 0,
                    background: 'transparent',
                    color: 'var(--ink2)',
                    font: 'inherit',
                    minWidth: 32,
                    minHeight: 32,
                    cursor: 'pointer',
                  }}
                >
                  ×
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </SheetTable>
      {rows.length === 0 && <p style={{ color: 'var(--ink2)', margin: '8px 0' }}>{say('Nothing here yet.')}</p>}
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
  );
}
