import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { Section } from '../../parts/layout';
import { LockMark } from './LockMark';

const pitch = 62;

/** What is drawn on the face of a board or a panel. */
export interface FaceProps {
  ways: Of<'Way'>[];
  circuits: Of<'Circuit'>[];
  leavers: Of<'Circuit'>[];
  locked: Map<number, string>; // by way whose lock keeps it open
}

/** The face of a board, way by way, with the circuits on it and the locks that hang. */
export function Face({ ways, circuits, leavers, locked }: FaceProps) {
  const perRow = 12;
  const rows = Math.ceil(ways.length / perRow);
  const leaving = (no: number) => {
    const c = leavers.find((k) => k.protection.way === no);
    return c?.name;
  };
  const goesFrom = (no: number) => {
    const name = leaving(no);
    return name && say('{{name}}, goes', { name });
  };
  const text = ways
    .map((w) =>
      say('way {{no}}: {{name}}', {
        no: w.no,
        name:
          circuits.find((c) => c.protection.way === w.no)?.name ?? goesFrom(w.no) ?? (w.label || (w.blank ? 'blank' : say('free, open'))),
      }),
    )
    .join('; ');
  return (
    <Section>
      <svg
        viewBox={`0 0 ${perRow * pitch + 8} ${rows * 118 + 8}`}
        style={{ width: '100%', maxWidth: Math.min(ways.length, perRow) * pitch * 1.15 + 60 }}
        role="img"
        aria-label={say('Face of the board. {{text}}', { text })}
      >
        {ways.map((w, i) => {
          const c = circuits.find((k) => k.protection.way === w.no);
          const x = 4 + (i % perRow) * pitch;
          const y = 4 + Math.floor(i / perRow) * 118;
          const goes = c ? undefined : leaving(w.no);
          const name = c?.name ?? goes ?? w.label;
          const empty = !name && !w.device;
          return (
            <g key={w.no}>
              <rect
                x={x}
                y={y}
                width={pitch - 4}
                height="110"
                fill={empty ? 'var(--wash)' : 'var(--sheet)'}
                stroke={c ? 'var(--copper)' : 'var(--ink)'}
                strokeWidth={c ? 2.5 : 1}
                strokeDasharray={goes || (empty && !w.blank) ? '4 3' : undefined}
              />
              <text x={x + 6} y={y + 16} fontSize="13" fontWeight="700" fill="var(--ink)">
                {w.no}
              </text>
              {!empty && <rect x={x + 20} y={y + 24} width="18" height="26" fill="none" stroke="var(--ink)" />}
              {!empty && <rect x={x + 23} y={y + 27} width="12" height="10" fill={c ? 'var(--copper)' : 'var(--ink2)'} />}
              <text x={x + 6} y={y + 66} fontSize="11" fontWeight="600" fill="var(--ink)">
                {c ? c.protection.curve + c.protection.ratingA : goes ? say('goes') : w.device || (w.blank ? 'blank' : 'open')}
              </text>
              {locked.has(w.no) && <LockMark x={x + pitch - 24} y={y + 6} by={locked.get(w.no)!} />}
              {(name || (empty ? 'free' : ''))
                .split(' ')
                .slice(0, 3)
                .map((t, k) => (
                  <text key={k} x={x + 6} y={y + 79 + k * 11} fontSize="10" fill="var(--ink2)">
                    {t.slice(0, 10)}
                  </text>
                ))}
            </g>
          );
        })}
      </svg>
    </Section>
  );
}
