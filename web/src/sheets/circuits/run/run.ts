import type { Of } from '../../../api/client';

type Box = Of<'Box'>;

/** One box of a run as it is listed: how deep in branches it hangs, and what it feeds along the same line. */
export interface Listed {
  box: Box;
  at: number; // place in the boxes of the circuit
  lane: number;
  next: string; // what it feeds along its line: a box, the way back, or nothing
}

/** What is done to the run of a circuit. */
export type Doer = (change: Omit<Of<'RunChange'>, 'circuit'>) => void;

/** The way back of a ring to the board, as the server calls it. */
export const back = 'board';

/** The boxes of a run in the order in which cable comes to them: along the line first, each branch before what follows it. */
export function listed(serves: Of<'Serves'>): Listed[] {
  const { boxes, back: last } = serves;
  const main = new Set<string>();
  for (let b = boxes.find((x) => x.id === last); b && !main.has(b.id); b = boxes.find((x) => x.id === b?.from)) main.add(b.id);
  const out: Listed[] = [];
  const walk = (from: string, lane: number) => {
    const fed = boxes.filter((b) => b.from === from);
    // Along the line goes what leads back to the board, else the first that was there.
    const along = fed.find((b) => main.has(b.id)) ?? (main.has(from) ? undefined : fed[0]);
    const one = (box: Box, on: number) => {
      const onward = boxes.filter((b) => b.from === box.id);
      const follows = onward.find((b) => main.has(b.id)) ?? (main.has(box.id) ? undefined : onward[0]);
      out.push({ box, at: boxes.indexOf(box), lane: on, next: follows?.id ?? (box.id === last ? back : '') });
      walk(box.id, on);
    };
    fed.filter((b) => b !== along).forEach((b) => one(b, lane + 1));
    if (along) one(along, lane);
  };
  walk('', 0);
  return out;
}

/** A place on a run, as the server takes it. */
export interface Spot {
  after: string;
  before: string;
}

/** The place ahead of a box. */
export const ahead = (b: Box): Spot => ({ after: b.from, before: b.id });

/** The end of a run: on the way back of a ring, else behind the last box of its line. */
export function end(serves: Of<'Serves'>): Spot {
  if (serves.back) return { after: serves.back, before: back };
  const line = listed(serves).filter((x) => x.lane === 0);
  return { after: line.at(-1)?.box.id ?? '', before: '' };
}

/** Where a box stands when it goes one further up (-1) or down (1) its line; nothing at the ends. */
export function step(serves: Of<'Serves'>, x: Listed, by: -1 | 1): Spot | undefined {
  const rows = listed(serves);
  if (by < 0) {
    const up = serves.boxes.find((b) => b.id === x.box.from);
    return up && ahead(up);
  }
  const down = rows.find((r) => r.box.id === x.next);
  return down && { after: down.box.id, before: down.next };
}

/** How much cable the route has to a box, or back, m, with how it is known; nothing while nobody knows. */
export function legOf(circuit: Of<'Circuit'>, to: string): { m: number; basis: string } | undefined {
  const { boxes, back: last } = circuit.serves;
  const { segments } = circuit.route;
  const whole = boxes.length === 1 && !last;
  if (!whole && !segments.some((s) => s.to)) return undefined;
  const own = segments.filter((s) => s.to === to || (!s.to && to === boxes[0]?.id));
  if (own.length === 0) return undefined;
  return {
    m: own.reduce((sum, s) => sum + s.lengthM, 0),
    basis: own.every((s) => s.basis === 'measured') ? 'measured' : (own.find((s) => s.basis !== 'measured')?.basis ?? 'assumed'),
  };
}

/** The number that the tags of a box bear. */
export const label = (b: Box) => (b.tag ? `P${String(b.tag).padStart(3, '0')}` : '');

/** A box in words: its tag and where it is. */
export const called = (b?: Box) => (b ? [label(b), b.name].filter(Boolean).join(' ') : '');
