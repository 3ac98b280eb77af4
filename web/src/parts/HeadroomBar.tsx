import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import type { Of } from '../api/client';
import { verdictInk } from './Mark';
import { useFigure } from './practice';

const Faint = styled('span')({ color: 'var(--ink2)' });
const Bar = styled('span')({ display: 'inline-flex', alignItems: 'center', gap: 6, whiteSpace: 'nowrap' });
const Steady = styled('svg')({ flex: 'none' });

interface Props {
  check?: Of<'Check'>;
  width?: number;
  bare?: boolean;
  short?: boolean; // under a heading that says that it is what is left
}

/** A value against its limit: a bar, a tick at the limit, and what is left. */
export function HeadroomBar({ check, width = 64, bare = false, short = false }: Props) {
  const figure = useFigure();
  if (!check || check.use === undefined || check.use === null) return <Faint>–</Faint>;
  const use = Math.max(0, check.use);
  const most = 1.25; // the tick stands at four fifths
  const full = Math.min(use, most) / most;
  const left = Math.round((1 - use) * 100);
  const text = left >= 0 ? `${left} % left` : `${-left} % over`;
  return (
    <Bar>
      <Steady
        width={width}
        height={16}
        viewBox={`0 0 ${width} 16`}
        role="img"
        aria-label={say('{{value}}, limit {{limit}}, {{text}}', {
          value: figure(check.value, check.unit),
          limit: figure(check.limit, check.unit),
          text,
        })}
      >
        <rect x="0" y="4" width={width} height="8" fill="var(--wash)" />
        <rect x="0" y="4" width={full * width} height="8" fill={verdictInk(check.verdict)} />
        <rect x={width / most - 1} y="0" width="2" height="16" fill="var(--ink)" />
      </Steady>
      {!bare && (
        <span style={{ color: use > 1 ? 'var(--brick)' : undefined, fontWeight: use > 1 ? 700 : 400 }}>
          {short ? `${left < 0 ? '−' : ''}${Math.abs(left)} %` : text}
        </span>
      )}
    </Bar>
  );
}
