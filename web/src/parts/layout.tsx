import { say } from '../words/words';
import type { ReactNode } from 'react';
import { styled } from '@mui/material/styles';

const Head = styled('h2')({ fontSize: '1.08em', margin: 0 });
const Titled = styled('div')({
  display: 'flex',
  flexWrap: 'wrap',
  alignItems: 'baseline',
  gap: 10,
  borderBottom: '1px solid var(--ink)',
  marginBottom: 8,
  paddingBottom: 2,
});
const Beside = styled('span')({ marginLeft: 'auto', fontSize: '.9em' });
const Unfinished = styled('p')({ color: 'var(--ink2)', borderTop: '1px dashed var(--rule2)', paddingTop: 6, fontSize: '.9em' });
const Warned = styled('p')({ margin: '6px 0', padding: '6px 10px', borderLeft: '4px solid var(--ochre)', background: 'var(--wash)' });
const Refused = styled('div')({ margin: '6px 0', padding: '6px 10px', borderLeft: '4px solid var(--brick)', background: 'var(--wash)' });

/** How far things stand apart, px. */
const room = { none: 0, xs: 3, s: 7, m: 11, l: 18 } as const;
type Room = keyof typeof room;

interface Spaced {
  above?: Room;
  below?: Room;
  around?: Room; // above and below
  pad?: Room; // inside, above and below
  ruled?: boolean; // a line below
}

const spacing = [
  'above',
  'below',
  'around',
  'gap',
  'align',
  'least',
  'most',
  'from',
  'nowrap',
  'pad',
  'ruled',
  'small',
  'quiet',
  'strong',
  'tone',
];
const own = { shouldForwardProp: (name: PropertyKey) => !spacing.includes(String(name)) };
const spaced = ({ above, below, around, pad, ruled }: Spaced) => {
  const top = above ?? around;
  const bottom = below ?? around;
  return {
    ...(top && { marginTop: room[top] }),
    ...(bottom && { marginBottom: room[bottom] }),
    ...(pad && { paddingTop: room[pad], paddingBottom: room[pad] }),
    ...(ruled && { borderBottom: '1px solid var(--rule)' }),
  };
};

export const Section = styled('section', own)<Spaced>({ marginBottom: 18 }, spaced);

/** What a page or sheet is called. */
export const Title = styled('h1')({ fontSize: '1.4em', margin: 0 });

/** What a dialog is about. */
export const DialogTitle = styled('h2')({ marginTop: 0, fontSize: '1.1em' });

/** What a part of a section is about. */
export const SubHead = styled('h3')({ fontSize: '.98em', margin: '11px 0 3px' });

/** A line or more of text. */
export const P = styled('p', own)<Spaced & { small?: boolean; quiet?: boolean; strong?: boolean }>(spaced, ({ small, quiet, strong }) => ({
  fontSize: small ? '.86em' : undefined,
  color: quiet ? 'var(--ink2)' : undefined,
  fontWeight: strong ? 600 : undefined,
}));

/** Something that stands apart from what is above or below it. */
export const Block = styled('div', own)<Spaced>(spaced);

/** Takes the room that is left in a row; it breaks where it would have less than from, px. */
export const Grow = styled('span', own)<{ from?: number }>(({ from }) => ({ flex: from ? `1 1 ${from}px` : 1 }));

/** What stands at the end of a row or a head. */
export const Aside = styled(
  'span',
  own,
)<{ gap?: Room }>(({ gap }) => ({
  marginLeft: 'auto',
  display: 'flex',
  flexWrap: 'wrap',
  alignItems: 'center',
  gap: room[gap ?? 'm'],
}));

/** Something of a width of its own in a row, px. */
export const Fixed = styled('span', own)<{ least: number }>(({ least }) => ({ minWidth: least }));

/** A page that is no job, so wide at most, px. */
export const Page = styled('main', own)<{ most: number }>(({ most }) => ({ padding: '16px 16px 50px', maxWidth: most, margin: '0 auto' }));

/** What a dialog holds. */
export const Inside = styled(
  'div',
  own,
)<{ least?: number; most?: number }>(({ least, most }) => ({
  padding: 20,
  minWidth: least,
  maxWidth: most,
}));

/** A form whose fields stand below each other. */
export const Form = styled('form', own)<{ pad?: Room }>(({ pad }) => ({ display: 'grid', gap: 14, padding: pad && 20 }));

/** Something in a frame: copper where it is worked on. */
export const Boxed = styled('div', own)<Spaced & { tone?: 'ink' | 'copper' | 'quiet' }>(
  ({ tone = 'ink' }) => ({ border: `1px solid var(--${tone === 'quiet' ? 'rule2' : tone})`, padding: '10px 12px' }),
  spaced,
);

/** A list with its marks. */
export const List = styled('ul', own)<Spaced>({ margin: '4px 0', paddingLeft: 18 }, spaced);

/** A list without marks. */
export const Bare = styled('ul', own)<Spaced>({ listStyle: 'none', margin: '4px 0', padding: 0 }, spaced);

/** One entry of a list. */
export const Item = styled('li', own)<Spaced>(spaced);

/** What is opened to be read. */
export const Details = styled('details', own)<Spaced>({ marginTop: 8, '& > summary': { cursor: 'pointer', minHeight: 32 } }, spaced);

/** A drawing as wide as there is room, at least and at most so wide, px. */
export const Drawing = styled(
  'svg',
  own,
)<{ least?: number; most?: number }>(({ least, most }) => ({
  display: 'block',
  width: '100%',
  fontFamily: 'inherit',
  minWidth: least,
  maxWidth: most,
}));

/** What is wrong, in a word. */
export const Bad = styled('b')({ color: 'var(--brick)' });

/** The head of a column of a width, px. */
export const Th = styled('th', own)<{ width?: number; least?: number }>(({ width, least }) => ({ width, minWidth: least }));

/** A cell; nowrap keeps it on one line. */
export const Td = styled(
  'td',
  own,
)<{ width?: number; nowrap?: boolean }>(({ width, nowrap }) => ({
  width,
  whiteSpace: nowrap ? 'nowrap' : undefined,
}));

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
/** Things beside each other that break into lines. */
export const Row = styled('div', own)<Spaced & { gap?: Room; align?: 'start' | 'end' | 'baseline' | 'center' | 'stretch' }>(
  { display: 'flex', flexWrap: 'wrap' },
  ({ gap, align }) => ({ gap: gap ? room[gap] : '8px 14px', alignItems: align ?? 'center' }),
  spaced,
);
/** Fields in columns, each at least so wide, px. */
export const Fields = styled('div', own)<Spaced & { least?: number }>(
  { display: 'grid', gap: '12px 22px', alignItems: 'start' },
  ({ least = 210 }) => ({ gridTemplateColumns: `repeat(auto-fill, minmax(min(100%, ${least}px), 1fr))` }),
  spaced,
);
/** What is said beside; block where it has a line of its own. */
export const Quiet = styled('span', { shouldForwardProp: (name) => name !== 'block' })<{ block?: boolean }>(({ block }) => ({
  color: 'var(--ink2)',
  fontSize: '.9em',
  display: block ? 'block' : undefined,
}));
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
    <Titled>
      <Head>{typeof children === 'string' ? say(children) : children}</Head>
      <Beside>{aside}</Beside>
    </Titled>
  );
}

/** What a sheet does not do yet, said where a person would look for it. */
export function NotYet({ children }: { children: ReactNode }) {
  return (
    <Unfinished>
      <b>{say('Not yet on this sheet:')}</b> {children}
    </Unfinished>
  );
}

/** A caution at the step that it belongs to. */
export function Caution({ children }: { children: ReactNode }) {
  return <Warned>{typeof children === 'string' ? say(children) : children}</Warned>;
}

export function Wrong({ children }: { children: ReactNode }) {
  return <Refused role="alert">{children}</Refused>;
}
