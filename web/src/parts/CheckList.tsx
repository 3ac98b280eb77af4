import { say } from '../words/words';
import { styled } from '@mui/material/styles';
import type { Of } from '../api/client';
import { HeadroomBar } from './HeadroomBar';
import { Mark } from './Mark';
import { useFigure } from './practice';

const Named = styled('b')({ fontWeight: 600 });

const Line = styled('button')({
  display: 'grid',
  gridTemplateColumns: '16px minmax(150px, 1.1fr) minmax(96px, .55fr) 148px minmax(0, 2fr)',
  gap: 10,
  alignItems: 'center',
  width: '100%',
  minHeight: 30,
  padding: '3px 6px 3px 4px',
  font: 'inherit',
  textAlign: 'left',
  color: 'var(--ink)',
  background: 'transparent',
  border: 0,
  borderBottom: '1px solid var(--rule)',
  borderLeft: '4px solid transparent',
  cursor: 'pointer',
  '&[aria-expanded=true]': { background: 'var(--wash)', borderLeftColor: 'var(--copper)' },
  '&:hover': { background: 'var(--wash)' },
  '& .says': {
    color: 'var(--ink2)',
    fontSize: '.9em',
    overflow: 'hidden',
    textOverflow: 'ellipsis',
    display: '-webkit-box',
    WebkitLineClamp: 2,
    WebkitBoxOrient: 'vertical',
  },
  '@media (max-width:1180px)': { gridTemplateColumns: '16px 1fr auto', '& .bar': { display: 'none' }, '& .says': { gridColumn: '2 / -1' } },
  '@media (max-width:700px)': { minHeight: 44 },
});

/** How a check opens its working, and which one is open. */
export interface Working {
  open: (c: Of<'Check'>) => void;
  opened?: string;
}

interface Props {
  checks: Of<'Check'>[];
  onOpen: (c: Of<'Check'>) => void;
  opened?: string;
}

/** Checks with their verdict, figure and headroom; each opens its working. */
export function CheckList({ checks, onOpen, opened }: Props) {
  const figure = useFigure();
  return (
    <div>
      {checks.map((c) => (
        <Line
          type="button"
          key={`${c.circuit}/${c.id}`}
          data-check={c.id}
          data-verdict={c.verdict}
          aria-expanded={opened === `${c.circuit ?? ''}/${c.id}`}
          onClick={() => onOpen(c)}
          onKeyDown={(e) => {
            const to =
              e.key === 'ArrowDown'
                ? e.currentTarget.nextElementSibling
                : e.key === 'ArrowUp'
                  ? e.currentTarget.previousElementSibling
                  : null;
            if (to instanceof HTMLElement) {
              e.preventDefault();
              to.focus();
            }
            if (e.key === 'w') onOpen(c);
          }}
        >
          <Mark verdict={c.outside ? 'unknown' : c.verdict} />
          <span>
            {c.title}
            {c.assumed.length > 0 && <span title={say('Assumed: {{assumed}}', { assumed: c.assumed.join('; ') })}> ◐</span>}
          </span>
          <Named data-value={c.value ?? ''}>{figure(c.value, c.unit)}</Named>
          <span className="bar">
            <HeadroomBar check={c} />
          </span>
          <span className="says">
            {c.outside ? say('For information, outside this job: {{summary}}', { summary: c.summary }) : c.summary}
          </span>
        </Line>
      ))}
    </div>
  );
}
