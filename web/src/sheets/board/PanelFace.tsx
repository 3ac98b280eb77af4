import { say } from '../../words/words';
import { Drawing, Section } from '../../parts/layout';
import type { FaceProps } from './Face';
import { LockMark } from './LockMark';
import { waysOf } from './ways';

const row = 26;
const col = 250;

/** The face of a panel in two columns, odd spaces left and even right, with the leg of every row and the locks that hang. */
export function PanelFace({ ways, circuits, leavers, locked }: FaceProps) {
  const rows = Math.ceil(Math.max(...ways.map((w) => w.no)) / 2);
  const spans = new Map<number, { name: string; device: string; poles: number; own: boolean }>();
  for (const w of ways)
    if (w.label || w.device) spans.set(w.no, { name: w.label, device: w.device, poles: Math.max(1, w.poles), own: false });
  for (const c of leavers)
    if (c.protection.way) {
      const name = say('{{name}}, goes', { name: c.name });
      spans.set(c.protection.way, { name, device: '', poles: Math.max(1, c.protection.poles), own: false });
    }
  for (const c of circuits)
    if (c.protection.way && !c.protection.ownEnclosure) {
      const { half, way, shared } = c.protection;
      const apart = shared.is && shared.secondWay; // each line on a device of its own
      const device = `${c.protection.poles > 1 && !apart ? '2P ' : ''}${c.protection.ratingA}`;
      const other = half ? spans.get(way) : undefined; // the other half of the space
      spans.set(way, {
        name: other ? (half === 'a' ? `${c.name} / ${other.name}` : `${other.name} / ${c.name}`) : c.name,
        device: other ? `${other.device} / ${device}` : device,
        poles: apart ? 1 : Math.max(1, c.protection.poles),
        own: true,
      });
      if (apart) spans.set(shared.secondWay, { name: c.name, device, poles: 1, own: true });
    }
  const covered = new Set<number>();
  const clashes = new Set<number>();
  for (const [no, s] of spans)
    for (const under of waysOf(no, s.poles, 2).slice(1)) {
      covered.add(under);
      const other = spans.get(under);
      if (!other) continue;
      clashes.add(no);
      s.name = say('{{name}}, over {{other}}', { name: s.name, other: other.name });
    }
  const text = [...spans].map(([no, s]) => say('space {{no}}: {{name}}', { no, name: s.name })).join('; ');
  return (
    <Section>
      <Drawing
        viewBox={`0 0 ${2 * col + 60} ${rows * row + 8}`}
        most={620}
        role="img"
        aria-label={say('Face of the panel. {{text}}', { text })}
      >
        {Array.from({ length: rows }, (_, r) => (
          <text key={r} x={col + 30} y={4 + r * row + 17} textAnchor="middle" fontSize="12" fontWeight="700" fill="var(--ink2)">
            {r % 2 ? 'B' : 'A'}
          </text>
        ))}
        {ways.map((w) => {
          if (covered.has(w.no)) return null;
          const s = spans.get(w.no);
          const right = w.no % 2 === 0;
          const x = right ? col + 58 : 2;
          const y = 4 + Math.floor((w.no - 1) / 2) * row;
          const h = row * (s?.poles ?? 1) - 4;
          return (
            <g key={w.no}>
              <rect
                x={x}
                y={y}
                width={col}
                height={h}
                fill={s ? 'var(--sheet)' : 'var(--wash)'}
                stroke={clashes.has(w.no) ? 'var(--brick)' : s?.own ? 'var(--copper)' : 'var(--ink)'}
                strokeWidth={s?.own ? 2.5 : 1}
                strokeDasharray={s || w.blank ? undefined : '4 3'}
              />
              <text x={x + 6} y={y + h / 2 + 5} fontSize="12" fontWeight="700" fill="var(--ink)">
                {s && s.poles > 1 ? `${w.no}, ${w.no + 2 * (s.poles - 1)}` : w.no}
              </text>
              <text x={x + 50} y={y + h / 2 + 5} fontSize="12" fill="var(--ink)">
                {(s?.name ?? (w.blank ? 'blank' : say('free, open'))).slice(0, 26)}
              </text>
              {locked.has(w.no) && <LockMark x={x + col - 60} y={y + h / 2 - 9} by={locked.get(w.no)!} />}
              <text x={x + col - 6} y={y + h / 2 + 5} fontSize="12" fontWeight="600" textAnchor="end" fill="var(--ink)">
                {s?.device}
              </text>
            </g>
          );
        })}
      </Drawing>
    </Section>
  );
}
