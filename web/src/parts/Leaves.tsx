import { styled } from '@mui/material/styles';
import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { say } from '../words/words';

const Strip = styled('div')({
  display: 'flex',
  flexWrap: 'wrap',
  gap: 0,
  borderBottom: '1px solid var(--ink)',
  marginBottom: 14,
  '& button': {
    font: 'inherit',
    color: 'var(--ink)',
    background: 'transparent',
    border: 0,
    borderBottom: '3px solid transparent',
    padding: '6px 12px 4px 0',
    marginRight: 14,
    minHeight: 36,
    cursor: 'pointer',
  },
  '& button[aria-selected=true]': { fontWeight: 700, borderBottomColor: 'var(--copper)' },
  '@media (max-width:700px)': { flexWrap: 'nowrap', overflowX: 'auto', '& button': { whiteSpace: 'nowrap', marginRight: 8 } },
});

export interface Leaf {
  id: string;
  name: string;
  count?: number; // things that wait there
  show: () => ReactNode;
}

interface LeavesProps {
  leaves: Leaf[];
  label: string;
  /** Leaves that the job has nothing for, by id: they stand behind the others. */
  idle?: string[];
}

/** The leaves of a long sheet, one shown at a time; the address keeps which. */
export function Leaves({ leaves: all, label, idle = [] }: LeavesProps) {
  const [more, setMore] = useState(false);
  const [params, setParams] = useSearchParams();
  const strip = useRef<HTMLDivElement>(null);
  const used = all.filter((l) => !idle.includes(l.id) || l.id === params.get('leaf'));
  const leaves = more ? all : used;
  const now = leaves.find((l) => l.id === params.get('leaf')) ?? leaves[0];
  const go = (id: string) => setParams({ leaf: id }, { replace: true });
  const onKey = (e: KeyboardEvent) => {
    const step = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
    if (!step) return;
    e.preventDefault();
    const to = (leaves.indexOf(now) + step + leaves.length) % leaves.length;
    go(leaves[to].id);
    strip.current?.querySelectorAll('button')[to]?.focus();
  };
  return (
    <>
      <Strip className="no-print">
        <div ref={strip} role="tablist" aria-label={label} onKeyDown={onKey} style={{ display: 'contents' }}>
          {leaves.map((l) => (
            <button
              key={l.id}
              type="button"
              role="tab"
              id={`leaf-${l.id}`}
              aria-controls="leaf"
              aria-selected={l === now}
              tabIndex={l === now ? 0 : -1}
              onClick={() => go(l.id)}
            >
              {l.name}
              {!!l.count && ` · ${l.count}`}
            </button>
          ))}
        </div>
        {used.length < all.length && !more && (
          <button type="button" data-more-leaves onClick={() => setMore(true)}>
            {say('More ({{n}})', { n: all.length - used.length })}
          </button>
        )}
      </Strip>
      <div role="tabpanel" id="leaf" aria-labelledby={`leaf-${now.id}`} data-leaf={now.id}>
        {now.show()}
      </div>
    </>
  );
}
