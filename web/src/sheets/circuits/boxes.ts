import type { Of } from '../../api/client';

type Box = Of<'Box'>;

/** A string without the boxes that were taken out: what they fed hangs on what fed them, off the same terminals. */
export function rehung(before: Box[], after: Box[]): Box[] {
  const there = new Set(after.map((b) => b.id));
  const feeder = (b: Box): Pick<Box, 'from' | 'side'> => {
    let at: Pick<Box, 'from' | 'side'> = b;
    while (at.from && !there.has(at.from)) at = before.find((x) => x.id === at.from) ?? { from: '', side: 'line' };
    return { from: at.from, side: at.side };
  };
  return after.map((b) => (b.from && !there.has(b.from) ? { ...b, ...feeder(b) } : b));
}

/** The two halves of a string that is split: the second begins at the panel. */
export function halves(boxes: Box[]): [Box[], Box[]] {
  const half = Math.ceil(boxes.length / 2);
  const rest = boxes.slice(half);
  const there = new Set(rest.map((b) => b.id));
  return [rehung(boxes, boxes.slice(0, half)), rest.map((b) => (there.has(b.from) ? b : { ...b, from: '', side: 'line' }))];
}
