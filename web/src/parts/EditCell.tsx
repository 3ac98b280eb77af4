import { styled } from '@mui/material/styles';
import type { ClipboardEvent, KeyboardEvent } from 'react';
import type { Part } from '../api/part';
import { textOf } from '../api/paths';
import { say } from '../words/words';
import { chosen, readCell, shownAs, unitOf, type Column } from './column';

const Input = styled('input')({
  width: '100%',
  font: 'inherit',
  color: 'inherit',
  background: 'transparent',
  border: '1px solid transparent',
  borderBottomColor: 'var(--rule2)',
  padding: '3px 4px',
  minHeight: 28,
  '&[data-figure]': { textAlign: 'right' },
  '&[type=checkbox]': { width: 20, height: 20 },
  '&:hover': { borderColor: 'var(--rule2)' },
  '&:focus': { background: 'var(--sheet)', borderColor: 'var(--copper)' },
  '&[aria-invalid=true]': { borderColor: 'var(--brick)' },
  '@media (max-width:700px)': {
    minHeight: 44,
    minWidth: 72,
    '&[type=checkbox]': { width: 24, height: 24, minHeight: 24, minWidth: 24, margin: 10 },
  },
  // A card has no columns that figures would stand in.
  '@media (max-width:600px)': {
    borderBottomColor: 'var(--rule2)',
    '&[data-figure]': { textAlign: 'left' },
    '&[type=checkbox]': { margin: '10px 4px' },
  },
});

const Trouble = styled('div')({ color: 'var(--brick)', fontSize: '.82em' });

/** What is typed into a cell and is not a value yet. */
export interface Typing {
  at: string;
  text: string;
}

interface Props<R> {
  part: Part;
  col: Column<R>;
  at: string; // path in the part
  name: string; // of the field, which an error leads to
  value: unknown;
  place: [row: number, column: number];
  typing?: Typing;
  onTyping: (t: Typing | undefined) => void;
  onFocus: () => void;
  onKey: (e: KeyboardEvent) => void;
  onPaste: (e: ClipboardEvent) => void;
}

/** One cell of a table that is edited: a text, a figure, a choice or a tick. */
export function EditCell<R>({ part, col, at, name, value, place: [r, c], typing, onTyping, onFocus, onKey, onPaste }: Props<R>) {
  const error = part.errors[`${part.name}.${at}`];
  const unit = unitOf(col);
  const common = {
    'data-cell': `${r},${c}`,
    'data-path': name,
    'aria-label': say('{{label}}{{x}}, row {{r}}', { label: col.label, x: unit ? ` ${unit}` : '', r: r + 1 }),
    disabled: part.frozen,
    title: error,
    onFocus,
    onKeyDown: onKey,
  };
  if (col.kind === 'check')
    return (
      <Input
        type="checkbox"
        {...common}
        aria-invalid={!!error || undefined}
        checked={!!value}
        onChange={(e) => part.save(at, e.target.checked)}
      />
    );
  if (col.kind === 'choice') {
    const id = textOf(value);
    return (
      <Input
        as="select"
        {...common}
        aria-invalid={!!error || undefined}
        value={id}
        onChange={(e: { target: { value: string } }) => part.save(at, chosen(col, e.target.value))}
      >
        {!col.options?.some((o) => o.id === id) && <option value={id}>{id}</option>}
        {col.options?.map((o) => (
          <option key={o.id} value={o.id}>
            {say(o.name)}
          </option>
        ))}
      </Input>
    );
  }
  if (col.kind === 'date')
    return (
      <Input
        type="date"
        {...common}
        aria-invalid={!!error || undefined}
        value={textOf(value)}
        onChange={(e) => part.save(at, e.target.value)}
      />
    );
  const shown = typing?.at === at ? typing.text : shownAs(col, value);
  const bad = typing?.at === at && readCell(col, shown) === undefined;
  return (
    <>
      <Input
        type="text"
        inputMode={col.kind === 'number' ? 'decimal' : undefined}
        data-figure={col.kind === 'number' || undefined}
        {...common}
        aria-invalid={bad || !!error || undefined}
        value={shown}
        onPaste={onPaste}
        onChange={(e) => {
          onTyping({ at, text: e.target.value });
          const v = readCell(col, e.target.value);
          if (v !== undefined) part.set(at, v);
        }}
        onBlur={() => {
          if (!bad) onTyping(undefined);
          part.commit();
        }}
      />
      {bad && (
        <Trouble>
          {col.kind === 'figures'
            ? say('“{{shown}}” is not read: numbers above 0, as 50 | 100', { shown })
            : say('“{{shown}}” is not a number', { shown })}
        </Trouble>
      )}
      {error && <Trouble>{error}</Trouble>}
    </>
  );
}
