import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { useId } from 'react';
import type { Of } from '../../api/client';
import { verdictInk } from '../../parts/Mark';

const Sideways = styled('div')({ overflowX: 'auto', maxWidth: '100%' });
const Strip = styled('svg')({ display: 'block' });

const box = { w: 124, h: 112 };
const step = { x: 176, y: 136 };
const left = 92;

interface Placed {
  b: Of<'Box'>;
  r?: Of<'BoxReport'>;
  x: number;
  y: number;
}

/** Lays the string out: depth from the panel, a lane for every branch. */
function place(boxes: Of<'Box'>[], reports: Of<'BoxReport'>[]): Placed[] {
  const out: Placed[] = [];
  let lane = 0;
  const walk = (from: string, depth: number) =>
    boxes
      .filter((b) => b.from === from)
      .forEach((b, i) => {
        if (i > 0) lane++;
        out.push({ b, r: reports.find((r) => r.id === b.id), x: left + depth * step.x, y: 8 + lane * step.y });
        walk(b.id, depth + 1);
      });
  walk('', 0);
  return out;
}

const cut = (s: string, n: number) => (s.length > n ? `${s.slice(0, n - 1)}…` : s);
// LINE stands high in the drawing and LOAD low, whatever they do on a device in the hand.
const port = { line: 34, load: 76 };
const portOf = (side: string) => (side === 'load' ? port.load : port.line);
const gfci = (b: Of<'Box'>) => b.device === 'gfci';

function short(p: Placed): string {
  if (p.b.device === 'none') return say('joint only');
  if (!p.r) return '';
  if (!p.r.read) return say('marking not read');
  if (!p.r.live) return say('dead as wired');
  return p.r.protected.length ? 'protected' : say('not protected');
}

/**
 * The string as it is wired. A run that some ground-fault device opens is drawn double, one that none opens single,
 * one without voltage broken; words in each box say the same.
 */
export function StringDrawing({ boxes, reports, device }: { boxes: Of<'Box'>[]; reports: Of<'BoxReport'>[]; device: boolean }) {
  const clip = useId();
  const placed = place(boxes, reports);
  const width = Math.max(...placed.map((p) => p.x)) + box.w + 8;
  const height = Math.max(...placed.map((p) => p.y)) + box.h + 10;
  const at = (id: string) => placed.find((p) => p.b.id === id);
  const summary = placed
    .map((p) =>
      say('{{name}}, fed from {{name2}}{{x}}: {{p}}', {
        name: p.b.name,
        name2: at(p.b.from)?.b.name ?? say('the panel'),
        x: p.b.side && at(p.b.from) ? say(' off {{side}}', { side: p.b.side.toUpperCase() }) : '',
        p: short(p),
      }),
    )
    .join('; ');
  return (
    <Sideways>
      <Strip width={width} height={height} role="img" aria-label={say('Run of outlets as wired. {{summary}}', { summary })}>
        <rect x="2" y="8" width="62" height={box.h} fill="var(--wash)" stroke="var(--ink)" />
        <text x="33" y="54" textAnchor="middle" fontSize="12" fontWeight="700" fill="var(--ink)">
          {say('panel')}
        </text>
        <text x="33" y="70" textAnchor="middle" fontSize="10" fill="var(--ink2)">
          {device ? 'ground-fault' : 'breaker'}
        </text>
        {placed.map((p) => {
          const from = at(p.b.from);
          const x1 = from ? from.x + box.w : 64;
          const y1 = (from ? from.y : 8) + (from && gfci(from.b) ? portOf(p.b.side) : 54);
          const y2 = p.y + (gfci(p.b) ? portOf(p.b.feed) : 54);
          const before = (p.r?.protected ?? []).filter((id) => id !== p.b.id);
          const live = gfci(p.b) ? (from?.r?.live ?? true) || before.length > 0 : (p.r?.live ?? true);
          const mid = (x1 + p.x) / 2;
          const path = `M ${x1} ${y1} H ${mid} V ${y2} H ${p.x}`;
          return (
            <g key={p.b.id} fill="none">
              <path d={path} stroke="var(--copper)" strokeWidth={before.length ? 7 : 3} strokeDasharray={live ? undefined : '5 4'} />
              {before.length > 0 && <path d={path} stroke="var(--sheet)" strokeWidth="3" />}
            </g>
          );
        })}
        {placed.map((p, i) => (
          <g key={p.b.id} transform={`translate(${p.x} ${p.y})`}>
            <clipPath id={`${clip}${i}`}>
              <rect x="3" y="0" width={box.w - 6} height={box.h} />
            </clipPath>
            <rect
              width={box.w}
              height={box.h}
              fill="var(--sheet)"
              stroke={p.r ? verdictInk(p.r.verdict) : 'var(--ink)'}
              strokeWidth={p.r && p.r.verdict !== 'pass' ? 2.5 : 1.2}
              strokeDasharray={p.r && !p.r.live ? '5 4' : undefined}
            />
            <g clipPath={`url(#${clip}${i})`}>
              <text x="8" y="16" fontSize="12" fontWeight="700" fill="var(--ink)">
                {cut(p.b.name, 17)}
              </text>
              {gfci(p.b) && <Device p={p} />}
              {!gfci(p.b) && p.b.device !== 'none' && (
                <text x="8" y="58" fontSize="11" fill="var(--ink)">
                  {p.b.device === 'two-slot' ? 'two-slot' : 'outlet'} {p.b.ratingA ? `${p.b.ratingA} A` : ''}
                  {p.b.ground === false ? say(', no ground') : ''}
                </text>
              )}
              <text x="8" y={box.h - 6} fontSize="10.5" fontWeight="600" fill={p.r ? verdictInk(p.r.verdict) : 'var(--ink2)'}>
                {short(p)}
              </text>
            </g>
          </g>
        ))}
      </Strip>
    </Sideways>
  );
}

/** A ground-fault device with its two pairs of terminals. */
function Device({ p }: { p: Placed }) {
  const row = (side: 'line' | 'load') => (
    <g transform={`translate(0 ${port[side]})`}>
      <rect x="4" y="-9" width={box.w - 8} height="18" fill="var(--wash)" stroke="var(--rule2)" />
      <text x="10" y="4" fontSize="10.5" fill="var(--ink)" fontWeight={p.b.feed === side ? 700 : 400}>
        {side.toUpperCase()}
        {p.b.feed === side ? ' ← feed' : ''}
      </text>
    </g>
  );
  return (
    <>
      {row('line')}
      <text x="10" y="59" fontSize="10.5" fill="var(--ink2)">
        {say('ground-fault {{x}}', { x: p.b.ratingA ? `${p.b.ratingA} A` : '' })}
      </text>
      {row('load')}
    </>
  );
}
