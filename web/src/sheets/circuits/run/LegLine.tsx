import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../../api/client';
import { parseFigure } from '../../../parts/figure';
import { Quiet } from '../../../parts/layout';
import { kept, shown, useUnits } from '../../../parts/units';
import { say } from '../../../words/words';

const Line = styled('li', { shouldForwardProp: (n) => n !== 'open' && n !== 'known' })<{ open: boolean; known: boolean }>(
  ({ open, known }) => ({
    display: 'flex',
    flexWrap: 'wrap',
    alignItems: 'center',
    gap: '2px 10px',
    marginLeft: 14,
    padding: '3px 0 3px 12px',
    borderLeft: `3px ${known ? 'solid' : 'dashed'} var(--copper)`,
    background: open ? 'var(--wash)' : undefined,
    minHeight: open ? 44 : 30,
  }),
);
const Length = styled('input')({
  width: 74,
  font: 'inherit',
  color: 'inherit',
  background: 'transparent',
  border: '1px solid var(--rule2)',
  padding: '3px 5px',
  textAlign: 'right',
  '@media (max-width:700px)': { minHeight: 44 },
});
const Small = styled(Button)({ padding: '0 6px', minWidth: 32, fontSize: '.86em', border: 0 });

interface Props {
  leg?: { m: number; basis: string };
  to: string; // in words
  frozen: boolean;
  dragging: boolean;
  onDrop: () => void;
  onLength: (m: number, basis: Of<'RunChange'>['basis']) => void;
  onJoint: () => void;
  onBreak?: () => void;
}

/** The cable between two points: how long, how that is known, and what can be put into it. */
export function LegLine({ leg, to, frozen, dragging, onDrop, onLength, onJoint, onBreak }: Props) {
  const units = useUnits();
  const [text, setText] = useState<string>();
  const [wrong, setWrong] = useState('');
  const [more, setMore] = useState(false);
  const is = leg ? String(Number(shown(leg.m, units.m).toFixed(2))) : '';
  const done = () => {
    const v = parseFigure(text ?? '');
    if (text === undefined || text === is) return setText(undefined);
    if (typeof v !== 'number' || v <= 0) return setWrong(say('Give a length in {{unit}} above 0, as 4.5.', { unit: units.m.unit }));
    setWrong('');
    setText(undefined);
    onLength(kept(v, units.m), 'measured');
  };
  return (
    <Line
      open={dragging}
      known={!!leg}
      onDragOver={(e) => dragging && e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        onDrop();
      }}
      data-leg={to}
    >
      <Length
        aria-label={say('Length of the leg to {{to}}, {{unit}}', { to, unit: units.m.unit })}
        inputMode="decimal"
        value={text ?? is}
        placeholder="?"
        disabled={frozen}
        aria-invalid={wrong !== ''}
        onChange={(e) => setText(e.target.value)}
        onBlur={done}
        onKeyDown={(e) => {
          if (e.key === 'Enter') done();
          if (e.key === 'Escape') setText(undefined);
        }}
      />
      <Quiet>
        {units.m.unit} {leg?.basis ? say(leg.basis) : say('not known')}
      </Quiet>
      {leg && leg.basis !== 'measured' && (
        <Small className="no-print" disabled={frozen} onClick={() => onLength(leg.m, 'measured')}>
          {say('Measured so')}
        </Small>
      )}
      {!frozen && !more && (
        <Small className="no-print" aria-label={say('More of the leg to {{to}}', { to })} onClick={() => setMore(true)}>
          …
        </Small>
      )}
      {more && (
        <Small className="no-print" disabled={frozen} onClick={onJoint}>
          {say('Joint here')}
        </Small>
      )}
      {more && onBreak && (
        <Small className="no-print" disabled={frozen} onClick={onBreak}>
          {say('Break the ring here')}
        </Small>
      )}
      {wrong && <span role="alert">{wrong}</span>}
    </Line>
  );
}
