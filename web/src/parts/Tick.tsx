import { Checkbox, FormControlLabel } from '@mui/material';
import type { ReactNode } from 'react';

interface TickProps {
  name: string;
  label: ReactNode;
  checked: boolean;
  disabled?: boolean;
  onChange: (v: boolean) => void;
}

/** One thing that somebody ticks, high enough for a glove. */
export function Tick({ name, label, checked, disabled, onChange }: TickProps) {
  return (
    <FormControlLabel
      sx={{ display: 'flex', minHeight: 44 }}
      control={
        <Checkbox checked={checked} disabled={disabled} onChange={(e) => onChange(e.target.checked)} slotProps={{ input: { name } }} />
      }
      label={label}
    />
  );
}
