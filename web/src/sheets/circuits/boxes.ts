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
