import { TextField } from '@mui/material';

/** A choice that is bound to no part. */
export function Pick({
  label,
  name,
  value,
  onChange,
  options,
  empty = 'choose',
  help,
}: {
  label: string;
  name: string;
  value: string;
  onChange: (v: string) => void;
  options: { id: string; name: string }[];
  empty?: string;
  help?: string;
}) {
  return (
    <TextField
      select
      label={label}
      value={value}
      helperText={help}
      onChange={(e) => onChange(e.target.value)}
      slotProps={{ select: { native: true }, htmlInput: { name } }}
    >
      <option value="">{empty}</option>
      {options.map((o) => (
        <option key={o.id} value={o.id}>
          {o.name}
        </option>
      ))}
    </TextField>
  );
}
