import type { Of } from '../../api/client';

type Item = Of<'ReadyItem'>;

/** What is open of the same thing on the same sheet, together; what is ready stays by itself. */
export function gathered(items: Item[]): Item[][] {
  const out: Item[][] = [];
  for (const i of items) {
    const last = i.ready ? undefined : out.find(([o]) => !o.ready && o.title === i.title && o.sheet === i.sheet);
    if (last) last.push(i);
    else out.push([i]);
  }
  return out;
}
