import { styled } from '@mui/material/styles';
import { Row, SheetTable } from './layout';

export const Grid = styled(SheetTable)({
  '& .pick': { width: 26 },
  '& .pick > input': { width: 18, height: 18, opacity: 0.45 },
  '& tr:hover .pick > input, & .pick > input:focus, & .pick > input:checked': { opacity: 1 },
  '& .group': { paddingTop: 10, color: 'var(--ink)' },
  '& .off': { width: 40 },
  '& .off > button': {
    border: 0,
    background: 'transparent',
    color: 'var(--ink2)',
    font: 'inherit',
    minWidth: 32,
    minHeight: 32,
    cursor: 'pointer',
  },
  '& tr[data-selected]': { background: 'var(--wash)' },
  '@media print': { '& .pick, & .off': { display: 'none' } },
  '@media (max-width:600px)': {
    '&& td[data-label]': { display: 'grid', gridTemplateColumns: '40% 1fr', alignItems: 'center', flex: '1 0 100%' },
    '& th.pick': { display: 'none' },
    '&& td.pick': { order: -1 },
    '& .pick > input': { width: 24, height: 24, margin: '10px 4px', opacity: 1 },
    '&& td.off': { marginLeft: 'auto', order: -1 },
    '& .off > button': { minWidth: 44, minHeight: 44, fontSize: '1.2em' },
    '&& td[data-lead]': { flex: '1 1 calc(100% - 40px)', fontWeight: 600 },
    '& td[data-lead] > span': { fontWeight: 400 },
    '&& td[data-empty]': { display: 'none' },
  },
});

export const Selection = styled(Row)({
  position: 'sticky',
  top: 52, // below the frame
  zIndex: 2,
  background: 'var(--paper)',
  padding: '4px 0',
  '@media print': { display: 'none' },
});

export const Nothing = styled('p')({ color: 'var(--ink2)', margin: '8px 0' });
