import { Button, Checkbox, FormControlLabel, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { Link } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { P, Quiet, Row } from '../../parts/layout';
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
      <ToggleButtonGroup
        exclusive
        fullWidth
        size="small"
        value={card}
        aria-label={say('Which card')}
        onChange={(_, v: Card | null) => {
          if (v) setCard(v);
          setTicked({});
        }}
        sx={{ my: 1, '& .MuiToggleButton-root': { minHeight: 44, textTransform: 'none', color: 'var(--ink)', lineHeight: 1.25 } }}
      >
        {cards().map((c) => (
          <ToggleButton key={c.id} value={c.id}>
            {c.name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <P around="xs">{shown.says}</P>
      {tests.cards[card].map((line, i) => (
        <FormControlLabel
          key={line.id}
          data-card={line.id}
          sx={{ display: 'flex', minHeight: 44 }}
          control={<Checkbox checked={!!ticked[line.id]} onChange={(e) => setTicked({ ...ticked, [line.id]: e.target.checked })} />}
          label={
            <>
              {i + 1}. {line.name} <Quiet>{line.at}</Quiet>
            </>
          }
        />
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
