import { styled } from '@mui/material/styles';

/** Keys large enough for a gloved thumb. */
export const Pad = styled('div')({
  display: 'grid',
  gridTemplateColumns: 'repeat(3, 1fr)',
  gap: 6,
  marginTop: 8,
  '& button': {
    font: 'inherit',
    fontSize: '1.35em',
    fontWeight: 600,
    minHeight: 52,
    background: 'var(--sheet)',
    color: 'var(--ink)',
    border: '1px solid var(--ink)',
    cursor: 'pointer',
  },
  '& button.small': { fontSize: '1em' },
  '& button.go': {
    gridColumn: 'span 2',
    background: 'var(--copper)',
    color: 'var(--sheet)',
    borderColor: 'var(--copper)',
    fontSize: '1.1em',
  },
  '& button[aria-pressed=true]': { background: 'var(--ink)', color: 'var(--sheet)' },
  '& button:disabled': { color: 'var(--ink2)', background: 'var(--wash)', borderColor: 'var(--rule)' },
});

export const Pair = styled(Pad)({ gridTemplateColumns: '1fr 1fr' });
