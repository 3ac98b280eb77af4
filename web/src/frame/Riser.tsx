import { say } from '../words/words';
import { styled } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { Mark } from '../parts/Mark';
import { sheets } from './sheets';

const Rail = styled('nav')({
  width: 148,
  flex: 'none',
  position: 'sticky',
  top: 52,
  alignSelf: 'flex-start',
  padding: '14px 0 14px 14px',
  '& ol': { listStyle: 'none', margin: 0, padding: 0, position: 'relative' },
  '& ol:before': { content: '""', position: 'absolute', left: 8, top: 12, bottom: 26, width: 3, background: 'var(--rule2)' },
  '& a': {
    display: 'grid',
    gridTemplateColumns: '19px 1fr',
    gap: 10,
    alignItems: 'start',
    padding: '6px 8px 6px 0',
    marginBottom: 9,
    minHeight: 44,
    color: 'var(--ink)',
    textDecoration: 'none',
    position: 'relative',
    lineHeight: 1.25,
  },
  '& a svg': { background: 'var(--paper)', marginTop: 1, justifySelf: 'center' },
  '& a small': { display: 'block', color: 'var(--ink2)', fontSize: '.82em' },
  '& a[aria-current=page] .name': { fontWeight: 700, borderBottom: '3px solid var(--copper)' },
  '@media (max-width:700px)': {
    position: 'fixed',
    top: 'auto',
    bottom: 0,
    left: 0,
    width: '100%',
    zIndex: 20,
    padding: 0,
    background: 'var(--paper)',
    borderTop: '1px solid var(--ink)',
    overflowX: 'auto',
    '& ol': { display: 'flex', minWidth: 'max-content' },
    '& ol:before': { left: 30, right: 30, top: 14, bottom: 'auto', width: 'auto', height: 3 },
    '& a': {
      display: 'flex',
      flexDirection: 'column',
      alignItems: 'center',
      gap: 2,
      margin: 0,
      padding: '6px 4px 4px',
      width: 76,
      minHeight: 54,
    },
    '& a small': { display: 'none' },
    '& a .name': { fontSize: 13 },
  },
  '@media print': { display: 'none' },
});

const afterPaint = 300;

/** The riser: a joint for each sheet, showing by shape how far it is and how many things it still waits for. */
export function Riser({ job, sheet }: { job: Of<'JobView'>; sheet: string }) {
  const { joints, waits } = job.view.state;
  const current = useRef<HTMLAnchorElement>(null);
  // On a phone the rail is moved to the open sheet, once that is painted: asked before, the
  // browser would have to lay the whole sheet out for it.
  useEffect(() => {
    if (!window.matchMedia('(max-width:700px)').matches) return;
    const later = window.setTimeout(() => current.current?.scrollIntoView({ inline: 'center', block: 'nearest' }), afterPaint);
    return () => window.clearTimeout(later);
  }, [sheet]);
  return (
    <Rail aria-label={say('Sheets of this job')}>
      <ol>
        {sheets.map((s) => {
          const n = waits[s.id] ?? 0;
          const verdict = joints[s.id] ?? 'unknown';
          return (
            <li key={s.id}>
              <Link
                to={`/jobs/${job.id}/${s.id}`}
                aria-current={s.id === sheet ? 'page' : undefined}
                ref={s.id === sheet ? current : undefined}
              >
                <Mark verdict={verdict} size={19} label={n ? say('{{n}} open', { n }) : verdict === 'pass' ? 'done' : verdict} />
                <span>
                  <span className="name">{say(s.name)}</span>
                  <small>
                    {n > 0
                      ? say('{{n}} open', { n })
                      : { pass: 'ready', caution: say('rests on assumptions'), fail: say('something fails'), unknown: say('not begun') }[
                          verdict
                        ]}
                  </small>
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
    </Rail>
  );
}
