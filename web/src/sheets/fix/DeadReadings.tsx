import { styled } from '@mui/material/styles';
import { TextField } from '@mui/material';
import type { Of } from '../../api/client';
import { Quiet } from '../../parts/layout';
import { parseFigure } from '../../parts/figure';
import { say } from '../../words/words';

const Pairs = styled('div')({ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(118px, 1fr))', gap: 8, margin: '8px 0' });

/** What was typed of a place: how many cables were counted and the voltage of each pair. */
export interface Typed {
  cables: string;
  volts: Record<string, string>;
}

export const nothingTyped: Typed = { cables: '', volts: {} };

const read = (text: string | undefined) => parseFigure(text ?? '') ?? undefined;

/** Whether every pair of a place was read. */
export const allRead = (place: Of<'WorkPlace'>, typed: Typed) => place.pairs.every((p) => read(typed.volts[p]) !== undefined);

/** What was typed as it goes on record: what was not read is not in it. */
export const proofOf = (place: Of<'WorkPlace'>, typed: Typed): Of<'DeadProof'> => ({
  at: place.id,
  cables: Number(read(typed.cables) ?? 0),
  read: place.pairs.flatMap((pair) => {
    const v = read(typed.volts[pair]);
    return v === undefined ? [] : [{ pair, v }];
  }),
});

/** The readings of a place, pair by pair in their order: none is filled in, and each waits for the one before. */
export function DeadReadings({ place, typed, onChange }: { place: Of<'WorkPlace'>; typed: Typed; onChange: (t: Typed) => void }) {
  const waits = place.pairs.findIndex((p) => read(typed.volts[p]) === undefined);
  return (
    <div data-readings={place.id}>
      <b>{place.name}</b> <Quiet>{say('the highest of all cables there, V')}</Quiet>
      <Pairs>
        {place.cables > 0 && (
          <TextField
            label={say('Cables counted')}
            value={typed.cables}
            onChange={(e) => onChange({ ...typed, cables: e.target.value })}
            slotProps={{ htmlInput: { name: 'cables', inputMode: 'numeric', autoComplete: 'off' } }}
          />
        )}
        {place.pairs.map((pair, i) => {
          const text = typed.volts[pair] ?? '';
          return (
            <TextField
              key={pair}
              label={say('{{pair}}, V', { pair: pair.replace('-', '–') })}
              value={text}
              error={text !== '' && read(text) === undefined}
              disabled={waits >= 0 && i > waits}
              onChange={(e) => onChange({ ...typed, volts: { ...typed.volts, [pair]: e.target.value } })}
              slotProps={{ htmlInput: { name: pair, inputMode: 'decimal', autoComplete: 'off' } }}
            />
          );
        })}
      </Pairs>
    </div>
  );
}
