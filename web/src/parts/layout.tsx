import { say } from '../words/words';
import type { ReactNode } from 'react';
import { styled } from '@mui/material/styles';

export const Section = styled('section')({ marginBottom: 18 });
export const SheetTable = styled('table')({
  borderCollapse: 'collapse',
  width: '100%',
  '& th': {
    textAlign: 'left',
    fontWeight: 600,
    fontSize: '.86em',
    color: 'var(--ink2)',
    borderBottom: '1px solid var(--ink)',
    padding: '3px 8px 3px 0',
    verticalAlign: 'bottom',
  },
  '& td': { borderBottom: '1px solid var(--rule)', padding: '2px 8px 2px 0', verticalAlign: 'middle' },
  '& .num': { textAlign: 'right' },
  // A list of cards where there is no room for columns: each row one under the other, each
  // cell under its name where it has one.
  '@media (max-width:600px)': {
    '&[data-cards], &[data-cards] tbody': { display: 'block', width: '100%' },
    '&[data-cards] thead': { position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)' },
    '&[data-cards] tr': {
      display: 'flex',
      flexWrap: 'wrap',
      gap: '2px 12px',
      alignItems: 'baseline',
      padding: '10px 0',
      borderBottom: '1px solid var(--rule2)',
    },
    '&[data-cards] td': { display: 'block', border: 0, padding: '0', whiteSpace: 'normal' },
    '&[data-cards] td[data-whole]': { flex: '1 0 100%' },
    '&[data-cards] td[data-label]::before': { content: 'attr(data-label) " "', color: 'var(--ink2)', fontSize: '.88em' },
  },
});
export const Row = styled('div')({ display: 'flex', flexWrap: 'wrap', gap: '8px 14px', alignItems: 'center' });
export const Fields = styled('div')({
  display: 'grid',
  gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 210px), 1fr))',
  gap: '12px 22px',
  alignItems: 'start',
});
export const Quiet = styled('span')({ color: 'var(--ink2)', fontSize: '.9em' });
export const Scroll = styled('div')({ overflowX: 'auto', maxWidth: '100%' });
export const Key = styled('kbd')({
  border: '1px solid var(--rule2)',
  padding: '0 5px',
  fontFamily: 'inherit',
  fontSize: '.86em',
  background: 'var(--sheet)',
});

export function Heading({ children, aside }: { children: ReactNode; aside?: ReactNode }) {
  return (
    <div
      style={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'baseline',
        gap: 10,
        borderBottom: '1px solid var(--ink)',
        marginBottom: 8,
        paddingBottom: 2,
      }}
    >
      <h2 style={{ fontSize: '1.08em', margin: 0 }}>{typeof children === 'string' ? say(children) : children}</h2>
      <span style={{ marginLeft: 'auto', fontSize: '.9em' }}>{aside}</span>
    </div>
  );
}

/** What a sheet does not do yet, said where a person would look for it. */
export function NotYet({ children }: { children: ReactNode }) {
  return (
    <p style={{ color: 'var(--ink2)', borderTop: '1px dashed var(--rule2)', paddingTop: 6, fontSize: '.9em' }}>
      <b>{say('Not yet on this sheet:')}</b> {children}
    </p>
  );
}

/** A caution at the step that it belongs to. */
export function Caution({ children }: { children: ReactNode }) {
  return (
    <p style={{ margin: '6px 0', padding: '6px 10px', borderLeft: '4px solid var(--ochre)', background: 'var(--wash)' }}>
      {typeof children === 'string' ? say(children) : children}
    </p>
  );
}

export function Wrong({ children }: { children: ReactNode }) {
  return (
    <div role="alert" style={{ margin: '6px 0', padding: '6px 10px', borderLeft: '4px solid var(--brick)', background: 'var(--wash)' }}>
      {children}
    </div>
  );
}
