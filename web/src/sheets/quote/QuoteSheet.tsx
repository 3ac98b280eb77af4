import { usePart } from '../../api/part';
import { useQuote } from '../../api/quote';
import { useFrame } from '../../frame/Shell';
import { Leaves } from '../../parts/Leaves';
import { Wrong } from '../../parts/layout';
import { SheetHead } from '../../parts/SheetHead';
import { say } from '../../words/words';
import type { SheetProps } from '../props';
import { Offer } from './Offer';
import { PriceTable } from './PriceTable';
import { priceSays } from './priceSays';
import { QuoteTerms } from './QuoteTerms';
import { UsedTables } from './UsedTables';

/** What the job costs and why, what the client may decline, what was offered and signed, and what it really took. For the office and the client. */
export function QuoteSheet({ job, j }: SheetProps) {
  const { me } = useFrame();
  const part = usePart(job, 'quote', j.quote);
  const { data, error } = useQuote(job.id);
  if (!data) return error ? <Wrong>{error.message}</Wrong> : <p>{say('Pricing …')}</p>;
  const open = data.offers[0]?.state === 'open' ? 1 : 0;
  return (
    <>
      <SheetHead title={say('Quote')} job={job.id} summary={priceSays(data, me.currency)} tables={[['quote', say('Price')]]} />
      <Leaves
        label={say('Leaves of the quote')}
        leaves={[
          {
            id: 'price',
            name: say('Price'),
            count: data.price.lacks.length,
            show: () => <PriceTable job={job} sheet={data} />,
          },
          { id: 'terms', name: say('Options and terms'), show: () => <QuoteTerms j={j} part={part} sheet={data} /> },
          { id: 'offer', name: say('Offer and answer'), count: open, show: () => <Offer job={job} j={j} sheet={data} /> },
          { id: 'used', name: say('What it took'), show: () => <UsedTables job={job} used={data.used} /> },
        ]}
      />
    </>
  );
}
