import { Checkbox, FormControlLabel, TextField } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { parseFigure } from '../../parts/figure';
import { Caution } from '../../parts/layout';
import { say } from '../../words/words';

const Fields = styled('div')({ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 10, margin: '8px 0' });

/** What is read before and as a conductor of earth, bonding or neutral is disconnected, as it is typed; none of it is ready until both are figures. */
export function useClamp() {
  const [clampA, setClampA] = useState('');
  const [acrossV, setAcrossV] = useState('');
  const [bridged, setBridged] = useState(false);
  const read: Pick<Of<'NewReading'>, 'clampA' | 'acrossV' | 'bridged'> = {
    clampA: parseFigure(clampA) ?? null,
    acrossV: parseFigure(acrossV) ?? null,
    bridged,
  };
  const clear = () => {
    setClampA('');
    setAcrossV('');
    setBridged(false);
  };
  return { clampA, setClampA, acrossV, setAcrossV, bridged, setBridged, read, clear };
}

/** The current that is clamped in what a test disconnects, and the voltage across the break. */
export function Clamp({ names, typed }: { names: string[]; typed: ReturnType<typeof useClamp> }) {
  const field = (name: string, label: string, value: string, onChange: (v: string) => void) => (
    <TextField
      label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      error={parseFigure(value) === undefined}
      helperText={parseFigure(value) === undefined && say('“{{text}}” is not a number.', { text: value })}
      slotProps={{ htmlInput: { name, inputMode: 'decimal', autoComplete: 'off' } }}
    />
  );
  return (
    <section aria-label={say('Before it is disconnected')} data-clamp>
      <Caution>
        {say(
          'It is disconnected for this: {{what}}. Clamp its current first, also with the supply off. Both ends count as live until the voltage across the break is read.',
          { what: names.join(', ') },
        )}
      </Caution>
      <Fields>
        {field('clampA', say('Current in it before, A'), typed.clampA, typed.setClampA)}
        {field('acrossV', say('Across the break, V'), typed.acrossV, typed.setAcrossV)}
      </Fields>
      <FormControlLabel
        control={<Checkbox checked={typed.bridged} onChange={(e) => typed.setBridged(e.target.checked)} name="bridged" />}
        label={say('It was bridged first with a conductor of its size')}
      />
    </section>
  );
}
