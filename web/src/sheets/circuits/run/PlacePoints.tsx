import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../../api/client';
import { Bare, Details, Quiet } from '../../../parts/layout';
import { say } from '../../../words/words';

const Line = styled('li')({ display: 'flex', flexWrap: 'wrap', gap: '2px 12px', alignItems: 'center', padding: '3px 0' });

/** The points of the walk that stand on no run yet, to be put on this one; what the walk says is fed from it first. */
export function PlacePoints({
  unplaced,
  circuit,
  onPlace,
}: {
  unplaced: Of<'Unplaced'>[];
  circuit: Of<'Circuit'>;
  onPlace: (u: Of<'Unplaced'>) => void;
}) {
  const [open, setOpen] = useState(circuit.serves.boxes.length === 0);
  if (unplaced.length === 0) return null;
  const mine = (u: Of<'Unplaced'>) => u.circuit === circuit.id;
  const sorted = [...unplaced.filter(mine), ...unplaced.filter((u) => !mine(u))];
  const count = unplaced.reduce((n, u) => n + u.count, 0);
  return (
    <Details open={open} onToggle={(e) => setOpen(e.currentTarget.open)} className="no-print">
      <summary>{say('Points of the walk on no circuit yet: {{count}}', { count })}</summary>
      <Bare>
        {sorted.map((u) => (
          <Line key={`${u.room}/${u.point}`}>
            <span>
              {u.roomName}: {u.count} × {u.name}
            </span>
            {u.fedFrom && <Quiet>{say('fed from {{from}} by the walk', { from: u.fedFrom })}</Quiet>}
            <Button
              size="small"
              onClick={() => onPlace(u)}
              aria-label={say('Put {{name}} of {{room}} on this run', { name: u.name, room: u.roomName })}
            >
              {say('Put on this run')}
            </Button>
          </Line>
        ))}
      </Bare>
    </Details>
  );
}
