import type { Of } from '../api/client';
import { moment, say } from '../words/words';

/** What a record says of its time where it was sent later than it was made, or by a clock that was off. */
export function sentLater(r: Of<'Record'>): string {
  const waited = r.receivedAt && new Date(r.receivedAt).getTime() - new Date(r.at).getTime() > 60_000;
  const off = r.clockOffS ?? 0;
  return [
    waited && r.receivedAt && say('sent {{at}}', { at: moment(r.receivedAt) }),
    off !== 0 &&
      (off > 0
        ? say('the clock of the device was {{minutes}} min ahead', { minutes: Math.round(off / 60) })
        : say('the clock of the device was {{minutes}} min behind', { minutes: Math.round(-off / 60) })),
  ]
    .filter(Boolean)
    .map((t) => ` · ${t}`)
    .join('');
}
