import { Button, Link } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { P, Quiet, Row } from '../../parts/layout';
import { OneOf } from '../../parts/OneOf';
import { Tick } from '../../parts/Tick';
import { say } from '../../words/words';

type Card = keyof Of<'SwitchingCards'>;
const cards = (): { id: Card; name: string; says: string }[] => [
  { id: 'off', name: say('Off, planned'), says: say('Shed load first: each circuit, then what they share, the main switch last.') },
  { id: 'emergency', name: say('Off, emergency'), says: say('The main switch at once, then every source of its own that still feeds.') },
  { id: 'on', name: say('On'), says: say('One after the other, each with its permission; look and read before the next.') },
];

/** In which order the devices of the house are opened and closed, to tick off at the board or to print. */
export function OffOnCards({ job }: { job: Of<'JobView'> }) {
  const { tests } = job.view;
  const [card, setCard] = useState<Card>('off');
  const [ticked, setTicked] = useState<Record<string, boolean>>({});
  const shown = cards().find((c) => c.id === card)!;
  return (
    <>
      <OneOf
        label={say('Which card')}
        value={card}
        choices={cards()}
        onChange={(v) => {
          setCard(v);
          setTicked({});
        }}
      />
      <P around="xs">{shown.says}</P>
      {tests.cards[card].map((line, i) => (
        <div key={line.id} data-card={line.id}>
          <Tick
            name={`card-${line.id}`}
            checked={!!ticked[line.id]}
            onChange={(v) => setTicked({ ...ticked, [line.id]: v })}
            label={
              <>
                {i + 1}. {line.name} <Quiet>{line.at}</Quiet>
              </>
            }
          />
        </div>
      ))}
      <Quiet block>{say('Ticks here are for the eye and go nowhere: an isolation, a lock or a permission is recorded for itself.')}</Quiet>
      <Row>
        <Button component={Link} href={`/api/jobs/${job.id}/cards.pdf`} target="_blank">
          {say('Print the cards')}
        </Button>
      </Row>
    </>
  );
}
