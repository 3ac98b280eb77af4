import type { Of } from '../api/client';
import { parseFigure } from '../parts/figure';

// What is filled in on the bench is kept as text, by key; a list of rows is kept
// as rows of text. The server says what a key accepts: nothing is judged here.

export type Row = Record<string, string>;
export interface Filled {
  [key: string]: string | Row[] | undefined;
}

type Field = Of<'CalcField'>;

/** The fields of one level: those under a key, with the key taken off. */
export const under = (fields: Field[], key: string): Field[] =>
  fields.filter((f) => f.key.startsWith(`${key}.`)).map((f) => ({ ...f, key: f.key.slice(key.length + 1) }));

export const top = (fields: Field[]): Field[] => fields.filter((f) => !f.key.includes('.'));

const number = (text: string): unknown => {
  const v = parseFigure(text);
  return v === undefined ? text : v; // what is no number goes to the server, which names the key
};

const parts = (text: string): string[] =>
  text
    .split(';')
    .map((p) => p.trim())
    .filter(Boolean);

/** A count is a number; a size such as 12 or 3/0 is a text, and comes first. */
const plain = (text: string, i: number, all: string[]): unknown => (i === all.length - 1 ? number(text) : text);

function read(f: Field, text: string): unknown {
  if (f.type.startsWith('yes')) return text === 'yes';
  if (f.type === 'text') return text;
  if (f.type === 'list of lists') return parts(text).map((p) => p.split(/\s+/).map(plain));
  if (f.type === 'numbers by name')
    return Object.fromEntries(
      parts(text).map((p) => {
        const at = p.search(/\s+\S+$/); // a name may have several words
        return at < 0 ? [p, ''] : [p.slice(0, at), number(p.slice(at).trim())];
      }),
    );
  if (f.type === 'list')
    return text
      .split(/[;\s]+/)
      .filter(Boolean)
      .map((t) => (/^(null|over|-)$/i.test(t) ? null : number(t)));
  if (f.type === 'number or null' && /^(null|over|-)$/i.test(text.trim())) return null;
  return number(text);
}

const object = (fields: Field[], row: Row): Record<string, unknown> =>
  Object.fromEntries(fields.filter((f) => (row[f.key] ?? '') !== '').map((f) => [f.key, read(f, row[f.key])]));

/** The input of a calculation from what was filled in; a key left empty is left out. */
export function inputOf(fields: Field[], filled: Filled): Record<string, unknown> {
  const out: Record<string, unknown> = {};
  for (const f of top(fields)) {
    const v = filled[f.key];
    const inner = under(fields, f.key);
    if (f.type === 'object' && inner.length > 0) {
      const row = Object.fromEntries(inner.map((g) => [g.key, (filled[`${f.key}.${g.key}`] as string | undefined) ?? '']));
      const o = object(inner, row);
      if (Object.keys(o).length > 0 || !f.optional) out[f.key] = o;
    } else if (f.type === 'lists by name') {
      const lists: Record<string, unknown[]> = {};
      for (const row of (v as Row[] | undefined) ?? []) {
        if (row.name) (lists[row.name] ??= []).push(object(inner, row));
      }
      out[f.key] = lists;
    } else if (f.type === 'list' && inner.length > 0) {
      const rows = ((v as Row[] | undefined) ?? []).map((row) => object(inner, row)).filter((o) => Object.keys(o).length > 0);
      if (rows.length > 0 || !f.optional) out[f.key] = rows;
    } else if (typeof v === 'string' && v !== '') out[f.key] = read(f, v);
    else if (f.type.startsWith('yes') && !f.optional) out[f.key] = false;
  }
  return out;
}

const said = (v: unknown): string => {
  if (v === undefined) return '';
  if (v === null) return 'over';
  if (typeof v === 'boolean') return v ? 'yes' : 'no';
  if (Array.isArray(v)) return v.map(said).join(v.some(Array.isArray) ? '; ' : ' ');
  if (typeof v === 'object')
    return Object.entries(v)
      .map(([k, x]) => `${k} ${said(x)}`)
      .join('; ');
  return typeof v === 'string' || typeof v === 'number' ? String(v) : '';
};

const rowOf = (fields: Field[], o: Record<string, unknown>): Row =>
  Object.fromEntries(fields.filter((f) => f.key in o).map((f) => [f.key, said(o[f.key])]));

/** What to fill in so that it reads as an input that was kept. */
export function filledOf(fields: Field[], input: Record<string, unknown>): Filled {
  const out: Filled = {};
  for (const f of top(fields)) {
    const v = input[f.key];
    const inner = under(fields, f.key);
    if (v === undefined) continue;
    if (f.type === 'object' && inner.length > 0) {
      for (const [key, text] of Object.entries(rowOf(inner, v as Record<string, unknown>))) out[`${f.key}.${key}`] = text;
    } else if (f.type === 'lists by name') {
      out[f.key] = Object.entries(v as Record<string, Record<string, unknown>[]>).flatMap(([name, list]) =>
        list.map((o) => ({ name, ...rowOf(inner, o) })),
      );
    } else if (f.type === 'list' && inner.length > 0) {
      out[f.key] = (v as Record<string, unknown>[]).map((o) => rowOf(inner, o));
    } else out[f.key] = said(v);
  }
  return out;
}
