import { say } from '../../words/words';
import type { Of } from '../../api/client';

const perM = 34;
const most = 640;

/** Wall lines one after another, to scale, with the receptacles evenly along each; a counter is drawn double. */
export function WallDrawing({ walls, show }: { walls: Of<'WallLine'>[]; show: (metres: number) => string }) {
  if (walls.length === 0) return null;
  const total = walls.reduce((sum, w) => sum + w.lengthM, 0);
  const scale = Math.min(perM, most / Math.max(total + walls.length * 0.3, 1));
  let x = 4;
  const lines = walls.map((w) => {
    const from = x;
    x += w.lengthM * scale + 12;
    return { w, from, to: x - 12 };
  });
  return (
    <svg
      viewBox={`0 0 ${x} 62`}
      style={{ width: '100%', maxWidth: x * 1.2, display: 'block' }}
      role="img"
      aria-label={say('Wall lines: {{walls}}', {
        walls: walls
          .map((w) =>
            say('{{x}}{{lengthM}}, {{has}} receptacles', { x: w.counter ? 'counter ' : '', lengthM: show(w.lengthM), has: w.has }),
          )
          .join('; '),
      })}
    >
      {lines.map(({ w, from, to }, i) => (
        <g key={i}>
          <line x1={from} x2={to} y1="34" y2="34" stroke="var(--ink)" strokeWidth="4" />
          {w.counter && <line x1={from} x2={to} y1="27" y2="27" stroke="var(--ink)" strokeWidth="2" />}
          {Array.from({ length: Math.min(w.has, 20) }, (_, n) => (
            <circle
              key={n}
              cx={from + ((n + 0.5) * (to - from)) / w.has}
              cy="34"
              r="5"
              fill="var(--sheet)"
              stroke="var(--copper)"
              strokeWidth="2.5"
            />
          ))}
          <text x={(from + to) / 2} y="54" textAnchor="middle" fontSize="11" fill="var(--ink2)">
            {show(w.lengthM)}
          </text>
        </g>
      ))}
    </svg>
  );
}
