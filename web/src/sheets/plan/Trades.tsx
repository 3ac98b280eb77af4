import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { useMe } from '../../api/job';
import { useJobLinks } from '../../api/links';
import type { Part } from '../../api/part';
import { Heading, P, Quiet, Section } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import { say } from '../../words/words';
import { BackCharges } from '../../parts/BackCharges';
import { Batons } from './Batons';
import { TradeCard } from './TradeCard';

interface TradesProps {
  job: Of<'JobView'>;
  j: Of<'Job'>;
  part: Part<Of<'Plan'>>;
}

/** The work of others in the house: what waits for them, what they wait for, and the link by which each reads its sheet. */
export function Trades({ job, j, part }: TradesProps) {
  const trades = part.value.trades;
  const currency = useMe().data?.currency ?? '';
  const unnamed = job.view.charges.filter((c) => !trades.some((t) => t.id === c.trade));
  const links = useJobLinks(job.id).data ?? [];
  const add = () => {
    let n = trades.length + 1;
    while (trades.some((t) => t.id === `t${n}`)) n++;
    part.save('trades', [
      ...trades,
      {
        id: `t${n}`,
        kind: 'plasterer',
        what: '',
        who: '',
        phone: '',
        rooms: [],
        waits: 'second',
        asked: '',
        promised: '',
        done: '',
        known: '',
        by: '',
        needs: '',
        dryDays: 0,
      },
    ]);
  };
  return (
    <Section data-trades>
      <Heading aside={<SaveLine part={part} />}>{say('Other trades')}</Heading>
      <P above="none">
        <Quiet>
          {say(
            'Our steps in their rooms stay closed until what they wait for is done, and their days stand on the week. Whoever waits for us sees when it is ready.',
          )}
        </Quiet>
      </P>
      {trades.length === 0 && <P data-nothing>{say('Nobody else is noted: our work waits for nobody.')}</P>}
      {trades.map((t, n) => (
        <TradeCard
          key={t.id}
          job={job.id}
          rooms={j.rooms}
          part={part}
          at={n}
          stand={job.view.trades.find((s) => s.id === t.id)}
          links={links.filter((l) => l.kind === 'trade' && l.subject === t.id)}
          charges={job.view.charges.filter((c) => c.trade === t.id)}
          currency={currency}
        />
      ))}
      {unnamed.length > 0 && <P strong>{say('Moved or covered, and nobody knows by whom:')}</P>}
      <BackCharges charges={unnamed} currency={currency} />
      <Batons batons={job.view.batons} />
      <Button disabled={part.frozen} onClick={add}>
        {say('Add a trade')}
      </Button>
    </Section>
  );
}
