import { Checkbox, FormControlLabel, TextField } from '@mui/material';
import { say } from '../../words/words';

/** How it is on record that somebody was handed something: to their signature, or to who saw it. */
export interface Seal {
  signed: boolean;
  witness: string;
}

export const unwitnessed: Seal = { signed: false, witness: '' };

export const witnessed = (s: Seal) => s.signed || s.witness.trim() !== '';

/** Signed by the person, or else who saw it. */
export function Witnessed({ by, value, onChange }: { by: string; value: Seal; onChange: (s: Seal) => void }) {
  return (
    <>
      <FormControlLabel
        control={
          <Checkbox
            checked={value.signed}
            slotProps={{ input: { name: 'signed' } }}
            onChange={(e) => onChange({ signed: e.target.checked, witness: '' })}
          />
        }
        label={say('{{by}} has signed it', { by: by || say('The person') })}
      />
      {!value.signed && (
        <TextField
          sx={{ flex: '1 1 160px' }}
          label={say('Or who saw it')}
          value={value.witness}
          onChange={(e) => onChange({ signed: false, witness: e.target.value })}
          slotProps={{ htmlInput: { name: 'witness', maxLength: 120 } }}
        />
      )}
    </>
  );
}
