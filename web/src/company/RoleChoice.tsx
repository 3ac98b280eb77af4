import { TextField } from '@mui/material';
import { msg, say } from '../words/words';

const roles = [msg('owner'), msg('supervisor'), msg('electrician'), msg('apprentice'), msg('office')];

/** The role of a person. */
export function RoleChoice({ value, onValue, name }: { value: string; onValue: (role: string) => void; name: string }) {
  return (
    <TextField
      select
      label={say('Role')}
      value={value}
      onChange={(e) => onValue(e.target.value)}
      slotProps={{ select: { native: true }, htmlInput: { name } }}
    >
      {roles.map((r) => (
        <option key={r} value={r}>
          {say(r)}
        </option>
      ))}
    </TextField>
  );
}
