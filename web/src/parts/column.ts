import type { ReactNode } from 'react';
import type { Path } from '../api/paths';
import { textOf } from '../api/paths';
import { msg, say } from '../words/words';
import type { Choice } from './choice';
import { parseFigure } from './figure';
import { kept, shown as inUnit, type Scale } from './units';

/** A column of a table that is edited. */
export interface Column<R> {
  key: Path<R>; // inside the row
  label: string;
  // Figures and words are lists, parted by | as in the files that go out.
  kind?: 'text' | 'number' | 'choice' | 'check' | 'date' | 'figures' | 'words';
  unit?: string;
  unitOf?: (row: R) => string; // of one row, where each has its own
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

/** A column that is only read: what stands in it for a row. */
export interface Said<R> {
  label: string; // read out where it is not shown
  show: (row: R) => ReactNode;
  figure?: boolean;
  bare?: boolean; // a mark or a drawing: its head is empty
  lead?: boolean; // on a phone it opens the card, without its label
  wide?: boolean; // left out on a phone
  width?: number;
}

export const isSaid = <R extends object>(col: Column<R> | Said<R>): col is Said<R> => 'show' in col;

type Kind = Pick<Column<never>, 'kind' | 'scale' | 'options' | 'numeric' | 'yesNo' | 'optional' | 'zero'>;

const looked: Choice[] = [
  { id: '', name: msg('not looked') },
  { id: 'true', name: msg('yes') },
  { id: 'false', name: msg('no') },
];

/** A column in the words and units of the practice; a conductor size that has a name is chosen by it. */
export function prepared<R>(asked: Column<R>, sizes: Choice[], scaleOf: (unit?: string, given?: Scale) => Scale | undefined): Column<R> {
  const col: Column<R> = asked.yesNo ? { ...asked, kind: 'choice', options: looked } : asked;
  const label = say(col.label);
  if (col.unit === 'mm²' && sizes.length > 0)
    return { ...col, label, unit: undefined, kind: 'choice', numeric: true, options: [{ id: '', name: '–' }, ...sizes] };
  return { ...col, label, scale: scaleOf(col.unit, col.scale) };
}

/** The unit that a column is shown in. */
export const unitOf = (col: Pick<Column<never>, 'unit' | 'scale'>) => col.scale?.unit ?? col.unit;

// A size that is not chosen is null where it may be absent, else zero.
const numberOf = (col: Kind, id: string) => (id !== '' ? Number(id) : col.optional ? null : 0);

/** What a choice is kept as. */
export const chosen = (col: Kind, id: string): unknown =>
  col.yesNo ? (id === '' ? null : id === 'true') : col.numeric ? numberOf(col, id) : id;

const parted = (text: string) =>
  text
    .split('|')
    .map((p) => p.trim())
    .filter(Boolean);

/** What a text typed or pasted into a cell is kept as; undefined where it is nothing that the column takes. */
export function readCell(col: Kind, text: string): unknown {
  if (col.kind === 'number') {
    const v = parseFigure(text);
    if (v === null) return col.zero ? 0 : col.optional ? null : undefined;
    return v === undefined ? v : kept(v, col.scale);
  }
  if (col.kind === 'figures') {
    const list = parted(text).map(parseFigure);
    return list.every((v) => typeof v === 'number' && v > 0) ? list : undefined;
  }
  if (col.kind === 'words') return parted(text);
  if (col.kind === 'check') return /^(1|x|y|yes|true)$/i.test(text.trim());
  if (col.kind === 'choice') {
    const id = col.options?.find((o) => o.id === text.trim() || o.name === text.trim())?.id;
    return id === undefined ? id : chosen(col, id);
  }
  return text;
}

/** A value as its cell shows it. */
export function shownAs(col: Kind, value: unknown): string {
  if (value === null || value === undefined || (col.zero && value === 0)) return '';
  if (Array.isArray(value)) return value.join(' | ');
  return typeof value === 'number' && col.kind === 'number' ? String(inUnit(value, col.scale)) : textOf(value);
}

/** A value as it is copied: a choice by its name. */
export function copiedAs(col: Kind, value: unknown): string {
  if (col.kind === 'check') return value ? 'x' : '';
  if (col.kind !== 'choice') return shownAs(col, value);
  const id = textOf(value);
  return say(col.options?.find((o) => o.id === id)?.name ?? id);
}
