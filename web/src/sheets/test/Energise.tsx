import { useState } from 'react';
import type { Of } from '../../api/client';
import { Caution, Details, Heading, P, Quiet, Section } from '../../parts/layout';
import { say } from '../../words/words';
import { Guarded } from './Guarded';
import { InUse } from './InUse';
import { OffOnCards } from './OffOnCards';
import { Part } from './Part';
import { RetestOrder } from './RetestOrder';
import { SwitchedOn } from './SwitchedOn';

/** What may be energised, part by part: how each stands, what it waits for, and the permission. */
export function Energise({ job }: { job: Of<'JobView'> }) {
  const { parts, rows } = job.view.tests;
  const [guarded, setGuarded] = useState(false); // everybody is asked to report only once it is opened
  const [open, setOpen] = useState<string>();
  const keyOf = (p: Of<'EnergisePart'>) => p.closes.join(' ');
  const first = parts[0] && keyOf(parts[0]);
  return (
    <Section data-energise>
      <Heading>{say('Energise by part')}</Heading>
      {parts.length === 0 && <P around="xs">{say('There is no board yet: enter the supply and the board first.')}</P>}
      {parts.map((p) => (
        <Part key={keyOf(p)} job={job} part={p} open={(open ?? first) === keyOf(p)} onOpen={() => setOpen(keyOf(p))} />
      ))}
      {rows
        .filter((r) => r.orderable)
        .map((r) => (
          <RetestOrder key={`${r.circuit}/${r.id}`} job={job} row={r} />
        ))}
      <Details>
        <summary>{say('Something was switched on without permission')}</summary>
        <SwitchedOn job={job} />
      </Details>
      <Details onToggle={(e) => setGuarded(e.currentTarget.open)}>
        <summary>{say('Guarded energising: which pair is the feed')}</summary>
        {guarded && <Guarded job={job} />}
      </Details>
      <Details>
        <summary>{say('Off card and on card')}</summary>
        <OffOnCards job={job} />
      </Details>
      <InUse job={job} />
      <Caution>
        {say(
          'The local code, the network operator and the licensed person decide. What is permitted here is for one closing, by the person named.',
        )}
      </Caution>
      <Quiet block>{say('Switching off and locking a danger needs no permission.')}</Quiet>
    </Section>
  );
}
