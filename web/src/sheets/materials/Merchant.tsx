import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { useMerchant } from '../../api/goods';
import { Heading, NotYet, Quiet, Section, Wrong } from '../../parts/layout';
import { say } from '../../words/words';
import { PlacedOrder } from './PlacedOrder';
import { ToOrder } from './ToOrder';

/** What goes to the merchant: what is still to be ordered, asked for first, and how the orders stand that were sent. */
export function Merchant({ job, j, part }: { job: Of<'JobView'>; j: Of<'Job'>; part: Part<Of<'Materials'>> }) {
  const { data, error } = useMerchant(job);
  if (!data) return error ? <Wrong>{error.message}</Wrong> : <p>{say('Computing …')}</p>;
  const orders = [...j.purchases.orders].reverse();
  return (
    <>
      {!data.connected && (
        <NotYet>
          {say('No merchant is connected: send the order as a file from the order list, and read the delivery note in when it comes.')}
        </NotYet>
      )}
      <ToOrder job={job} part={part} open={data.open} connected={data.connected} />
      <Section>
        <Heading>{say('Orders')}</Heading>
        {orders.length === 0 && <Quiet>{say('Nothing was ordered from here yet.')}</Quiet>}
        {orders.map((o) => (
          <PlacedOrder key={o.id} job={job} order={o} sent={data.sent.find((s) => s.id === o.id)} />
        ))}
      </Section>
    </>
  );
}
