import type { Of } from '../../api/client';
import { Caution, List, Quiet } from '../../parts/layout';
import { SheetLink } from '../../parts/SheetLink';
import { say } from '../../words/words';

/** What keeps the price open, and what of the design fails, each with where it is put right. */
export function Open({ job, sheet }: { job: Of<'JobView'>; sheet: Of<'QuoteSheet'> }) {
  const { lacks } = sheet.price;
  return (
    <>
      {lacks.length > 0 && (
        <Caution>
          {say('Not all of the price is known; nothing is offered before it is:')}
          <Places job={job} of={lacks} />
          <Quiet>{say('What the company charges stands on its page of prices and hours.')}</Quiet>
        </Caution>
      )}
      {sheet.fails.length > 0 && (
        <Caution>
          {say('The design fails here; what puts it right is not in the price:')}
          <Places job={job} of={sheet.fails} />
        </Caution>
      )}
    </>
  );
}

function Places({ job, of }: { job: Of<'JobView'>; of: Of<'QuoteSheet'>['fails'] }) {
  return (
    <List>
      {of.map((l) => (
        <li key={l.what}>
          {l.what} <SheetLink job={job.id} at={l} />
        </li>
      ))}
    </List>
  );
}
