import { usePart } from '../../api/part';
import { Leaves } from '../../parts/Leaves';
import { SheetHead } from '../../parts/SheetHead';
import { say } from '../../words/words';
import type { SheetProps } from '../props';
import { CutPlans } from './CutPlans';
import { Deliveries } from './Deliveries';
import { Merchant } from './Merchant';
import { OrderList } from './OrderList';
import { Stock } from './Stock';
import { Van } from './Van';

/** What is bought for the whole job, what is cut from which drum, and what came of it. For the office and the yard. */
export function MaterialsSheet({ job, j }: SheetProps) {
  const part = usePart(job, 'materials', j.materials);
  const take = job.view.take;
  const short = take.lines.filter((l) => l.short > 0).length;
  const stands = () => {
    if (!take.lines.length) return say('Nothing to order: there is no circuit yet.');
    if (short) return say('{{short}} of {{lines}} lines not on site.', { short, lines: take.lines.length });
    return take.gaps.length ? say('What is on the list is on site.') : say('Everything is on site.');
  };
  return (
    <>
      <SheetHead
        title={say('Materials')}
        job={job.id}
        summary={stands()}
        tables={[
          ['materials', say('Order list')],
          ['asks', say('Who asks for it')],
          ['cuts', say('Cut plan')],
          ['order', say('Order')],
        ]}
      />
      <Leaves
        label={say('Leaves of the materials')}
        leaves={[
          { id: 'list', name: say('Order list'), count: take.gaps.length, show: () => <OrderList job={job} part={part} /> },
          { id: 'cuts', name: say('Cut plan'), show: () => <CutPlans job={job} /> },
          { id: 'merchant', name: say('Merchant'), show: () => <Merchant job={job} j={j} part={part} /> },
          { id: 'stock', name: say('Stock'), show: () => <Stock job={job} j={j} /> },
          { id: 'van', name: say('Van'), show: () => <Van job={job} /> },
          { id: 'came', name: say('Deliveries'), count: take.troubles.length, show: () => <Deliveries job={job} /> },
        ]}
      />
    </>
  );
}
