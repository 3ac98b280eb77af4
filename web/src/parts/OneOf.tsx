import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import type { Choice } from './choice';

interface OneOfProps<T extends string> {
  label: string;
  value: T;
  onChange: (v: T) => void;
  choices: (Choice & { id: T })[];
}

/** One of a few things, all of which are seen. */
export function OneOf<T extends string>({ label, value, onChange, choices }: OneOfProps<T>) {
  return (
    <ToggleButtonGroup
      exclusive
      fullWidth
      size="small"
      value={value}
      aria-label={label}
      onChange={(_, v: T | null) => v && onChange(v)}
      sx={{ my: 1, '& .MuiToggleButton-root': { minHeight: 44, textTransform: 'none', color: 'var(--ink)', lineHeight: 1.25 } }}
    >
      {choices.map((c) => (
        <ToggleButton key={c.id} value={c.id} data-choice={c.id}>
          {c.name}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
