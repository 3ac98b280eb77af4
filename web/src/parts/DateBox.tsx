import { TextField } from '@mui/material';
import type { Part } from '../api/part';
import { get, textOf, type Path } from '../api/paths';

interface Props<T> {
  part: Part<T>;
  path: Path<T>;
  label: string;
  help?: string;
}

/** A date bound to a path of a part, or none. */
export function DateBox<T>({ part, path, label, help }: Props<T>) {
  const value = get(part.value, path);
  const error = part.errors[`${part.name}.${path}`];
  return (
    <TextField
      type="date"
      label={label}
      value={textOf(value)}
      disabled={part.frozen}
      error={!!error}
      helperText={error ?? help}
      sx={{ maxWidth: 180 }}
      onChange={(e) => part.set(path, e.target.value)}
      onBlur={part.commit}
      slotProps={{ htmlInput: { 'data-path': path } }}
    />
  );
}
