import type { Of } from '../../api/client';
import { Scroll } from '../../parts/layout';
import { useUnits } from '../../parts/units';
import { say } from '../../words/words';

const wide = 190;
const box = 124;
const step = 46;
const high = 34;

/** The rooms and the ways of cables between them, each behind the one that its cables come through. Not to scale. */
export function RoomWays({ plan }: { plan: Of<'WaysPlan'> }) {
  const units = useUnits();
  const at = new Map([['', { x: 0, y: 0 }], ...plan.rooms.map((r) => [r.room, { x: r.column * wide, y: r.row * step }] as const)]);
  return (
    <Scroll>
      <svg
        data-ways
        role="img"
        aria-label={say('Rooms and ways, not to scale')}
        width={(plan.columns - 1) * wide + box + 2}
        height={(plan.rows - 1) * step + high + 2}
      >
        <g transform="translate(1 1)" fontSize="12">
          {plan.rooms.map((r) => {
            const [a, b] = [at.get(r.from) ?? { x: 0, y: 0 }, { x: r.column * wide, y: r.row * step }];
            const bend = b.x - (wide - box) * 0.75;
            const length = r.lengthM > 0 ? (r.assumed ? '◐ ' : '') + units.show(r.lengthM, 'm') : '○';
            return (
              <g key={r.room}>
                <path
                  d={`M${a.x + box} ${a.y + high / 2}H${bend}V${b.y + high / 2}H${b.x}`}
                  fill="none"
                  stroke="var(--copper)"
                  strokeWidth="1.5"
                />
                <text x={(bend + b.x) / 2} y={b.y + high / 2 - 4} textAnchor="middle" fontSize="10" fill="currentColor">
                  {length}
                </text>
                <Place x={b.x} y={b.y} name={r.name} under={[r.floor, say('{{n}} points', { n: r.points })].filter(Boolean).join(' · ')} />
              </g>
            );
          })}
          <Place x={0} y={0} name={say('Board')} under="" />
        </g>
      </svg>
    </Scroll>
  );
}

function Place({ x, y, name, under }: { x: number; y: number; name: string; under: string }) {
  return (
    <g transform={`translate(${x} ${y})`}>
      <rect width={box} height={high} fill="var(--paper)" stroke="currentColor" />
      <text x={box / 2} y={under ? 14 : 21} textAnchor="middle" fontWeight="600" fill="currentColor">
        {name.length > 18 ? `${name.slice(0, 17)}…` : name}
        <title>{name}</title>
      </text>
      {under && (
        <text x={box / 2} y={27} textAnchor="middle" fontSize="10" fill="currentColor">
          {under}
        </text>
      )}
    </g>
  );
}
