import type { Part } from '../api/part';
import { get, put, type Path } from '../api/paths';

/**
 * A map of a part as the rows of a table: each row is what the sheet worked out for one id,
 * with what was written for it. What is changed in a row is written under its id; the keys of the
 * map hold dots and slashes, so that no path leads to them.
 */
export function mapRows<T, E extends object, R extends E>(
  part: Part<T>,
  path: Path<T>,
  nothing: E, // written for an id that has nothing; its members are the ones that are edited
  rows: R[],
  idOf: (row: R) => string,
): Part<{ rows: R[] }> {
  const map = (get(part.value, path) ?? {}) as Record<string, E>;
  const fields = Object.keys(nothing) as (keyof E)[];
  const written = (at: string, value: unknown) => {
    const next = put({ rows }, at, value).rows;
    const out = { ...map };
    next.forEach((row, i) => {
      // What a row says that has nothing written for it yet is written with what is changed of it.
      const said = () => Object.fromEntries(fields.map((f) => [f, rows[i][f]])) as E;
      for (const f of fields) if (row[f] !== rows[i][f]) out[idOf(row)] = { ...(out[idOf(row)] ?? said()), [f]: row[f] };
    });
    return out;
  };
  const errors = Object.fromEntries(
    rows.flatMap((row, i) =>
      fields.flatMap((f) => {
        const said = part.errors[`${part.name}.${path}[${idOf(row)}].${String(f)}`];
        return said ? [[`${part.name}.rows[${i}].${String(f)}`, said]] : [];
      }),
    ),
  );
  return {
    ...part,
    value: { rows },
    errors,
    set: (at, value) => part.set(path, written(at, value)),
    save: (at, value) => part.save(path, written(at, value)),
  };
}
