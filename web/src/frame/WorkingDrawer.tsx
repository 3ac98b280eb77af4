import { say } from '../words/words';
import { Button } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import type { Of } from '../api/client';
import { HeadroomBar } from '../parts/HeadroomBar';
import { Mark, verdictInk, verdictWord } from '../parts/Mark';
import { money } from '../parts/figure';
import { Grow, P, Quiet, SubHead } from '../parts/layout';
import { useFigure } from '../parts/practice';

const CheckTitle = styled('h2')({ fontSize: '1.05em', margin: 0, flex: 1 });
const Head = styled('div')({ display: 'flex', gap: 8, alignItems: 'start' });
const Remedy = styled('div')({
  border: '1px solid var(--copper)',
  padding: '6px 10px',
  marginBottom: 8,
  display: 'flex',
  gap: 8,
  alignItems: 'center',
});

const Drawer = styled('aside')({
  width: 330,
  flex: 'none',
  borderLeft: '1px solid var(--ink)',
  background: 'var(--paper)',
  padding: '14px 16px',
  overflowY: 'auto',
  // It stays in sight beside the figure that opened it, however far down that is.
  position: 'sticky',
  top: 52,
  alignSelf: 'flex-start',
  height: 'calc(100vh - 98px)',
  '& dl': { margin: '10px 0' },
  '& dl > div': {
    display: 'grid',
    gridTemplateColumns: '1fr auto',
    gap: '0 10px',
    borderBottom: '1px dotted var(--rule2)',
    padding: '4px 0',
  },
  '& dt': { fontWeight: 500 },
  '& dd': { margin: 0 },
  '& dd.with': { gridColumn: '1 / -1', color: 'var(--ink2)', fontSize: '.86em' },
  '@media (max-width:1050px)': {
    position: 'fixed',
    right: 0,
    top: 0,
    bottom: 0,
    height: 'auto',
    zIndex: 40,
    width: 'min(100vw, 390px)',
    background: 'var(--paper)',
  },
});

interface Props {
  check: Of<'Check'>;
  edition?: string; // of the rules that it was judged by
  holds?: Of<'HeldActs'>; // what waits for it
  currency: string;
  onClose: () => void;
  onTake?: (remedy: Of<'Remedy'>) => void;
}

/** The working of one figure: its steps with the numbers put in, its sources, and what would make it pass. */
export function WorkingDrawer({ check, edition, holds, currency, onClose, onTake }: Props) {
  const figure = useFigure();
  const waits = (check.verdict === 'fail' && holds?.fails) || (check.verdict === 'unknown' && holds?.unknown) || [];
  const top = useRef<HTMLElement>(null);
  useEffect(() => top.current?.focus({ preventScroll: true }), [check.id, check.circuit]);
  return (
    <Drawer
      ref={top}
      tabIndex={-1}
      aria-label={say('Working of {{title}}', { title: check.title })}
      onKeyDown={(e) => e.key === 'Escape' && onClose()}
      data-drawer={check.id}
    >
      <Head>
        <CheckTitle>{check.title}</CheckTitle>
        <Button onClick={onClose} aria-label={say('Close the working')} sx={{ minWidth: 36 }}>
          ×
        </Button>
      </Head>
      <p style={{ margin: '6px 0', color: verdictInk(check.verdict), fontWeight: 600 }}>
        <Mark verdict={check.verdict} /> {verdictWord(check.verdict)}
      </p>
      <P around="xs">{check.summary}</P>
      {check.value !== null && check.value !== undefined && check.limit !== null && check.limit !== undefined && (
        <P around="s">
          {figure(check.value, check.unit)}, {check.sense === 'min' ? say('at least') : say('at most')}
          {` ${figure(check.limit, check.unit)} `}
          <HeadroomBar check={check} width={90} />
        </P>
      )}
      <dl aria-label={say('Steps')}>
        {check.steps.map((s, i) => (
          <div key={i}>
            <dt>{s.symbol}</dt>
            <dd>
              <b>{figure(s.value, s.unit)}</b>
            </dd>
            <dd className="with">
              {s.formula}
              {s.with && <>: {s.with}</>}
              {s.source && <i> · {s.source}</i>}
            </dd>
          </div>
        ))}
      </dl>
      {check.missing.length > 0 && (
        <>
          <SubHead>{say('Missing')}</SubHead>
          {check.missing.map((m) => (
            <P key={m} around="xs">
              <Mark verdict="unknown" size={12} /> {m}
            </P>
          ))}
        </>
      )}
      {check.assumed.length > 0 && (
        <>
          <SubHead>{say('Assumed, to be confirmed')}</SubHead>
          {check.assumed.map((a) => (
            <P key={a} around="xs">
              <Mark verdict="caution" size={12} /> {a}
            </P>
          ))}
        </>
      )}
      {waits.length > 0 && (
        <P around="s" data-holds>
          <b>{say('Held until it passes:')}</b> {waits.join(', ')}.
        </P>
      )}
      {(check.verdict === 'fail' || check.remedies.length > 0) && (
        <>
          <SubHead>{check.verdict === 'fail' ? say('What would make it pass') : say('What would be better')}</SubHead>
          {check.remedies.length === 0 && (
            <Quiet>
              {say('No single change was found that cures this without making something else worse. Change the route or split the load.')}
            </Quiet>
          )}
          {check.remedies.map((r) => (
            <Remedy key={r.title}>
              <Grow>
                <b>{r.title}</b>
                <br />
                <Quiet>
                  {r.effect}
                  {r.extra !== null &&
                    r.extra !== undefined &&
                    say(' · material {{x}}{{extra}}', { x: r.extra >= 0 ? '+' : '', extra: money(r.extra, currency) })}
                </Quiet>
              </Grow>
              {onTake && (
                <Button variant="contained" onClick={() => onTake(r)}>
                  {say('Apply')}
                </Button>
              )}
            </Remedy>
          ))}
        </>
      )}
      <SubHead>{say('Sources')}</SubHead>
      {edition && (
        <P around="xs" small>
          {say('Judged by the edition {{edition}}.', { edition })}
        </P>
      )}
      {check.sources.map((s) => (
        <P key={s.ref} around="xs" small>
          {s.ref} <Quiet>{say('· confidence {{confidence}}', { confidence: s.confidence })}</Quiet>
        </P>
      ))}
    </Drawer>
  );
}
