import { styled } from '@mui/material/styles';
import { msg, say } from '../words/words';
import { TextField } from '@mui/material';
import { useEffect, useRef, useState, type ChangeEvent, type KeyboardEvent, type ReactNode } from 'react';
import type { Of } from '../api/client';
import type { Part } from '../api/part';
import { get, textOf, type Path } from '../api/paths';
import { parseFigure } from './figure';
import type { Choice } from './choice';
import { useSizes } from './practice';
import { kept, shown, useScale, type Scale } from './units';

const FactPair = styled('div')({ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 108px', gap: 8, alignItems: 'start' });

// Fields bound to one path of a part. They save when they are left or with
// Enter; Esc puts back what was there.

interface Bound<T> {
  part: Part<T>;
  path: Path<T>;
  label: string;
  help?: ReactNode;
}

const errorOf = <T,>(part: Part<T>, path: Path<T>) => part.errors[`${part.name}.${path}`];

export function TextBox<T>({ part, path, label, help, lines }: Bound<T> & { lines?: number }) {
  const value = textOf(get(part.value, path));
  const [before, setBefore] = useState(value);
  const error = errorOf(part, path);
  const acts = {
    value,
    disabled: part.frozen,
    onFocus: () => setBefore(value),
    onChange: (e: ChangeEvent<HTMLInputElement>) => part.set(path, e.target.value),
    onBlur: part.commit,
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key === 'Enter' && !lines) part.commit();
      if (e.key === 'Escape') part.save(path, before);
    },
  };
  return (
    <TextField
      {...acts}
      label={say(label)}
      error={!!error}
      helperText={error ?? (typeof help === 'string' ? say(help) : help)}
      multiline={!!lines}
      minRows={lines}
      slotProps={{ htmlInput: { 'data-path': path } }}
    />
  );
}

interface NumberProps {
  value: number | null | undefined;
  onValue: (v: number | null) => void;
  onDone: () => void;
  label: string;
  unit?: string;
  error?: string;
  help?: ReactNode;
  disabled?: boolean;
  optional?: boolean;
  path?: string;
}

/** A number with its unit. What is typed stays until it is a number; only then it reaches the draft. */
export function NumberInput({ value, onValue, onDone, label, unit, error, help, disabled, optional, path }: NumberProps) {
  const shown = value === null || value === undefined ? '' : String(value);
  const [text, setText] = useState(shown);
  const [before, setBefore] = useState<number | null>(null);
  // Another's value, or an undo, replaces the text; one's own typing never does,
  // and text that is no number stays until it is mended.
  const own = useRef(text);
  own.current = text;
  useEffect(() => {
    if (parseFigure(own.current) !== (value ?? null)) setText(shown);
  }, [shown, value]);
  const said = say(label);
  const name = unit ? `${said}, ${unit}` : said;
  const read = parseFigure(text);
  const wrong =
    read === undefined
      ? say('“{{text}}” is not a number: give {{x}}, as 12.5.', { text, x: unit ? say('a number in {{unit}}', { unit }) : 'a number' })
      : read === null && !optional
        ? say('A number is needed.')
        : '';
  const done = () => {
    if (!wrong) onDone();
  };
  const acts = {
    value: text,
    disabled,
    onFocus: () => setBefore(value ?? null),
    onChange: (e: ChangeEvent<HTMLInputElement>) => {
      setText(e.target.value);
      const v = parseFigure(e.target.value);
      if (v !== undefined && (v !== null || optional)) onValue(v);
    },
    onBlur: done,
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key === 'Enter') done();
      if (e.key === 'Escape') {
        setText(before === null ? '' : String(before));
        onValue(before);
      }
    },
  };
  return (
    <TextField
      {...acts}
      label={name}
      error={!!(wrong || error)}
      helperText={wrong || error || help}
      slotProps={{ htmlInput: { inputMode: 'decimal', 'data-path': path, autoComplete: 'off' } }}
    />
  );
}

export function NumberBox<T>({
  part,
  path,
  label,
  unit,
  scale: given,
  help,
  optional,
}: Bound<T> & { unit?: string; scale?: Scale; optional?: boolean }) {
  const value = get(part.value, path) as number | null;
  const scale = useScale()(unit, given);
  const sizes = useSizes();
  if (unit === 'mm²' && sizes.length > 0)
    return <ChoiceBox part={part} path={path} label={label} help={help} options={sizes} numeric empty={optional ? '–' : undefined} />;
  return (
    <NumberInput
      value={typeof value === 'number' ? shown(value, scale) : value}
      onValue={(v) => part.set(path, v === null ? null : kept(v, scale))}
      onDone={part.commit}
      label={label}
      unit={scale?.unit ?? unit}
      error={errorOf(part, path)}
      help={help}
      disabled={part.frozen}
      optional={optional}
      path={path}
    />
  );
}

export const choices = (ids: readonly (string | number)[] | undefined): Choice[] =>
  (ids ?? []).map((id) => ({ id: String(id), name: String(id) }));

/** A choice; numbers are read back as numbers when numeric is set. */
export function ChoiceBox<T>({
  part,
  path,
  label,
  help,
  options,
  numeric,
  empty,
}: Bound<T> & { options: Choice[]; numeric?: boolean; empty?: string }) {
  const error = errorOf(part, path);
  const value = get(part.value, path);
  return (
    <TextField
      select
      label={say(label)}
      value={textOf(value)}
      disabled={part.frozen}
      error={!!error}
      helperText={error ?? (typeof help === 'string' ? say(help) : help)}
      onChange={(e) => part.save(path, numeric ? (e.target.value === '' ? null : Number(e.target.value)) : e.target.value)}
      slotProps={{ select: { native: true }, htmlInput: { 'data-path': path } }}
    >
      {empty !== undefined && <option value="">{say(empty)}</option>}
      {options.map((o) => (
        <option key={o.id} value={o.id}>
          {say(o.name)}
        </option>
      ))}
    </TextField>
  );
}

/** Yes, no or not yet known; never a default. */
export function YesNoBox<T>({ part, path, label, help, sure }: Bound<T> & { sure?: boolean }) {
  const value = get(part.value, path);
  return (
    <TextField
      select
      label={say(label)}
      value={value === true ? 'yes' : value === false ? 'no' : ''}
      disabled={part.frozen}
      helperText={typeof help === 'string' ? say(help) : help}
      onChange={(e) => part.save(path, e.target.value === '' ? null : e.target.value === 'yes')}
      slotProps={{ select: { native: true }, htmlInput: { 'data-path': path } }}
    >
      {!sure && <option value="">{say('not recorded')}</option>}
      <option value="yes">{say('yes')}</option>
      <option value="no">{say('no')}</option>
    </TextField>
  );
}

/** How a figure came to be known, in the words that fit what it is a figure of. */
export const bases = (measured: string, enquiry: string, assumed = '◐ assumed'): Choice[] => [
  { id: 'measured', name: measured },
  { id: 'enquiry', name: enquiry },
  { id: 'assumed', name: assumed },
];

const factBases = bases('measured', msg('by enquiry'), 'assumed');

/** A figure of which nothing is known yet. */
export const noFact: Of<'Fact'> = { value: null, basis: '', note: '' };

/** A figure with how it came to be known; an assumed one stays marked. */
export function FactBox<T>({ part: of, path, label, unit, scale }: Bound<T> & { unit: string; scale?: Scale }) {
  const part: Part = of; // the paths of the fact's own members are not of the part's type
  const fact = get(part.value, path) as Of<'Fact'>;
  const known = fact.value !== null && fact.value !== undefined;
  const assumed = known && fact.basis !== 'measured' && fact.basis !== 'enquiry';
  return (
    <FactPair>
      <NumberBox
        part={part}
        path={`${path}.value`}
        label={label}
        unit={unit}
        scale={scale}
        optional
        help={assumed ? say('◐ assumed: to be confirmed') : !known ? say('○ not recorded') : fact.note || undefined}
      />
      <ChoiceBox part={part} path={`${path}.basis`} label={say('Basis')} options={factBases} empty="–" />
    </FactPair>
  );
}
