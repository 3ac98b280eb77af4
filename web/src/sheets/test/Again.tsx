import { TextField } from '@mui/material';
import { styled } from '@mui/material/styles';
import type { Of } from '../../api/client';
import { say } from '../../words/words';
import { Pair } from './keys';

const Which = styled('div')({ display: 'grid', gap: 8, margin: '6px 0' });

/** Which point of the run it is read at: each once, the worst counts. */
export function PointChoice({ points, value, onChange }: { points: Of<'PointRead'>[]; value: string; onChange: (id: string) => void }) {
  return (
    <TextField
      select
      sx={{ my: 1 }}
      fullWidth
      label={say('Read at which point')}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      helperText={say('{{read}} of {{n}} points read. The worst counts; once one is named, each is read.', {
        read: points.filter((p) => p.reading).length,
        n: points.length,
      })}
      slotProps={{ select: { native: true }, htmlInput: { name: 'box' } }}
    >
      <option value="">{say('the farthest point alone')}</option>
      {points.map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
          {p.reading ? ' ✓' : ''}
        </option>
      ))}
    </TextField>
  );
}

interface AgainProps {
  points: boolean; // they are chosen from a list
  replaces: boolean;
  onReplaces: (v: boolean) => void;
  place: string;
  onPlace: (v: string) => void;
  reason: string;
  onReason: (v: string) => void;
}

/** Where there is a reading already: one more at another point, of which the worst counts, or one in its place with the reason. */
export function Again({ points, replaces, onReplaces, place, onPlace, reason, onReason }: AgainProps) {
  return (
    <Which role="group" aria-label={say('What this reading is')}>
      <Pair>
        <button type="button" className="small" aria-pressed={!replaces} onClick={() => onReplaces(false)}>
          {say('Another point')}
        </button>
        <button type="button" className="small" aria-pressed={replaces} onClick={() => onReplaces(true)}>
          {say('In its place')}
        </button>
      </Pair>
      {replaces ? (
        <TextField
          label={say('Why: misread, or what was put right')}
          value={reason}
          onChange={(e) => onReason(e.target.value)}
          slotProps={{ htmlInput: { name: 'reason' } }}
        />
      ) : points ? null : (
        <TextField
          label={say('Which point')}
          value={place}
          onChange={(e) => onPlace(e.target.value)}
          helperText={say('The worst reading counts; all are kept.')}
          slotProps={{ htmlInput: { name: 'place' } }}
        />
      )}
    </Which>
  );
}
