import { styled } from '@mui/material/styles';

/** What stands alone on a page before somebody is signed in. */
export const Card = styled('main')({
  maxWidth: 420,
  margin: '9vh auto 0',
  padding: 22,
  background: 'var(--sheet)',
  border: '1px solid var(--ink)',
  '&[data-over]': { margin: 0, border: 0 },
});

export const Mark = styled('h1')({ margin: '0 0 4px', fontSize: '1.5em', borderLeft: '5px solid var(--copper)', paddingLeft: 10 });
