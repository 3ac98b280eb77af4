import type { Of } from '../../api/client';
import { money } from '../../parts/figure';
import { say } from '../../words/words';

/** An amount, or a range of it. */
export const upTo = (low: number, high: number, currency: string) =>
  high > low ? say('{{low}} to {{high}}', { low: money(low, currency), high: money(high, currency) }) : money(low, currency);

/** How a price stands, in one sentence. */
export function priceSays(sheet: Of<'QuoteSheet'>, currency: string) {
  const { price, agreed, offers } = sheet;
  if (agreed) return say('Agreed: {{sum}}.', { sum: money(agreed.offer + agreed.variations, currency) });
  const sum = upTo(price.sum.total, price.sum.high, currency);
  if (price.lacks.length) return say('{{sum}} so far; not all of it is known.', { sum });
  return offers[0] ? say('{{sum}}. {{number}}: {{says}}.', { sum, number: offers[0].offer.reference, says: offers[0].says }) : sum;
}
