// Reading and writing a value inside a part by the path that the server's
// errors use: route.segments[0].lengthM.
type Plain = string | number | boolean | null | undefined;

type Below<T, P extends string> = T extends Plain
  ? never
  : T extends readonly (infer Item)[]
    ? `${P}[${number}]` | Below<NonNullable<Item>, `${P}[${number}]`>
    : string extends keyof T
      ? `${P}.${string}`
      : { [K in keyof T & string]: `${P}.${K}` | Below<NonNullable<T[K]>, `${P}.${K}`> }[keyof T & string];

/** The paths of a value of a type, as `route.segments[0].lengthM`: a misspelt one does not compile. Of a value of no known type any text. */
export type Path<T> = string &
  (unknown extends T ? string : { [K in keyof T & string]: K | Below<NonNullable<T[K]>, K> }[keyof T & string]);

/** What stands at a path of a value of a type; of a value of no known type anything. */
export type At<T, P extends string> = unknown extends T ? any : Standing<T, P>; // eslint-disable-line @typescript-eslint/no-explicit-any

type Standing<T, P extends string> = P extends `${infer Head}.${infer Rest}`
  ? Standing<Standing<T, Head>, Rest>
  : P extends `${infer Head}[${number}]`
    ? ItemOf<Standing<T, Head>>
    : P extends keyof T
      ? NonNullable<T[P]>
      : never;

/** What a list holds. */
export type ItemOf<T> = unknown extends T ? T : T extends readonly (infer Item)[] ? Item : never;

type Step = string | number;

const steps = (path: string): Step[] => path.split(/[.[\]]+/).flatMap((s) => (s === '' ? [] : /^\d+$/.test(s) ? Number(s) : s));

type Bag = Record<Step, unknown>;

/** What stands at a path of a value, undefined where nothing does. */
export function get(body: unknown, path: string): unknown {
  return steps(path).reduce<unknown>((v, s) => (v === null || v === undefined ? undefined : (v as Bag)[s]), body);
}

/** A plain value as text, what is no plain value as none. */
export const textOf = (v: unknown): string =>
  typeof v === 'string' ? v : typeof v === 'number' || typeof v === 'boolean' ? String(v) : '';

/** Returns a copy with the value put in; what is not on the path is shared. */
export function put<T>(body: T, path: string, value: unknown): T {
  const walk = (v: unknown, [s, ...rest]: Step[]): unknown => {
    if (s === undefined) return value;
    const copy = (Array.isArray(v) ? v.slice() : { ...(v as Bag) }) as Bag;
    copy[s] = walk((v as Bag | undefined)?.[s], rest);
    return copy;
  };
  return walk(body, steps(path)) as T;
}

/** Lists the paths at which two values differ, with both values. */
export function differences(mine: unknown, theirs: unknown, at = ''): { path: string; mine: unknown; theirs: unknown }[] {
  if (JSON.stringify(mine) === JSON.stringify(theirs)) return [];
  const bags = [mine, theirs].every((v) => typeof v === 'object' && v !== null);
  if (!bags) return [{ path: at, mine, theirs }];
  const keys = [...new Set([...Object.keys(mine as object), ...Object.keys(theirs as object)])];
  return keys.flatMap((k) => {
    const path = Array.isArray(mine) ? `${at}[${k}]` : at ? `${at}.${k}` : k;
    return differences((mine as Bag)[k], (theirs as Bag)[k], path);
  });
}
