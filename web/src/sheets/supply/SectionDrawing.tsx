import { styled } from '@mui/material/styles';
import { Drawing, P } from '../../parts/layout';
import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { figure } from '../../parts/figure';
import { useUnits } from '../../parts/units';

const Sideways = styled('div')({ overflowX: 'auto' });

const width = 900;
const top = 34;
const deep = 190;

/** A trench as a section along its run: ground, cover asked for, duct as planned or dug, ribbon, bends and electrodes. */
export function SectionDrawing({ run, worked, rods }: { run: Of<'OutdoorRun'>; worked: Of<'WorkedRun'>; rods: Of<'PlacedRod'>[] }) {
  const units = useUnits();
  const length = Math.max(worked.lengthM, 1);
  const overhead = run.kind === 'overhead';
  const most = Math.max(900, ...worked.sections.map((s) => Math.max(s.coverMM, s.needMM))) * 1.15;
  const x = (m: number) => 40 + (m / length) * (width - 70);
  const y = (mm: number) => (overhead ? top + deep - (mm / most) * deep : top + (mm / most) * deep);
  const duct = run.ductMM > 0 ? 7 : 4;
  const line = (of: (s: Of<'RunSection'>) => number) =>
    worked.sections.flatMap((s) => [`${x(s.fromM)},${y(of(s))}`, `${x(s.toM)},${y(of(s))}`]).join(' ');
  let rodAt = 0;
  return (
    <Sideways>
      <Drawing
        viewBox={`0 0 ${width} ${top + deep + 40}`}
        least={560}
        role="img"
        aria-label={`${run.name}, ${units.show(worked.lengthM, 'm')}: ${worked.sections
          .map((s) =>
            say('{{place}} {{toM}}, {{coverMM}} {{x}}, {{needMM}} asked for', {
              place: s.place,
              toM: units.show(s.toM - s.fromM, 'm'),
              coverMM: units.show(s.coverMM, 'mm'),
              x: s.dug ? 'dug' : 'planned',
              needMM: units.show(s.needMM, 'mm'),
            }),
          )
          .join('; ')}`}
      >
        {!overhead && <rect x={40} y={top} width={width - 70} height={deep} fill="var(--wash)" />}
        <line
          x1={30}
          y1={overhead ? top + deep : top}
          x2={width - 20}
          y2={overhead ? top + deep : top}
          stroke="var(--ink)"
          strokeWidth={2}
        />
        <polyline points={line((s) => s.needMM)} fill="none" stroke="var(--brick)" strokeWidth={1.5} strokeDasharray="5 4" />
        {worked.sections.map((s, i) => (
          <g key={i}>
            {s.ribbonMM > 0 && (
              <line
                x1={x(s.fromM)}
                y1={y(s.ribbonMM)}
                x2={x(s.toM)}
                y2={y(s.ribbonMM)}
                stroke="var(--ochre)"
                strokeWidth={2.5}
                strokeDasharray="10 4"
              />
            )}
            <line x1={x(s.fromM)} y1={y(s.coverMM)} x2={x(s.toM)} y2={y(s.coverMM)} stroke="var(--copper)" strokeWidth={duct} />
            {i > 0 && (
              <line
                x1={x(s.fromM)}
                y1={y(worked.sections[i - 1].coverMM)}
                x2={x(s.fromM)}
                y2={y(s.coverMM)}
                stroke="var(--copper)"
                strokeWidth={duct}
              />
            )}
            <line x1={x(s.toM)} y1={top - 6} x2={x(s.toM)} y2={top + deep} stroke="var(--rule2)" strokeWidth={0.7} />
            <text x={(x(s.fromM) + x(s.toM)) / 2} y={16} fontSize={13} textAnchor="middle" fill="var(--ink)" fontWeight={600}>
              {s.place}
            </text>
            <text
              x={(x(s.fromM) + x(s.toM)) / 2}
              y={y(s.coverMM) + (overhead ? -10 : 22)}
              fontSize={12.5}
              textAnchor="middle"
              fill="var(--ink)"
            >
              {units.show(s.coverMM, 'mm')} {s.dug ? '' : '◐'}
            </text>
            <text x={(x(s.fromM) + x(s.toM)) / 2} y={top + deep + 18} fontSize={12.5} textAnchor="middle" fill="var(--ink2)">
              {units.show(s.toM - s.fromM, 'm')}
            </text>
            {s.bendDeg > 0 && (
              <g transform={`translate(${x(s.toM)},${y(s.coverMM)})`}>
                <circle r={8} fill="var(--sheet)" stroke="var(--copper)" strokeWidth={2} />
                <text x={0} y={-14} fontSize={12} textAnchor="middle" fill="var(--copper)" fontWeight={600}>
                  {figure(s.bendDeg)}°
                </text>
              </g>
            )}
          </g>
        ))}
        {!overhead &&
          rods.map((r, i) => {
            rodAt += i > 0 ? r.spacingM : 0;
            const at = Math.min(rodAt, length);
            return (
              <g key={i}>
                <line
                  x1={x(at)}
                  y1={y(r.topMM)}
                  x2={x(at)}
                  y2={Math.min(y(r.topMM + r.lengthM * 1000), top + deep + 6)}
                  stroke="var(--verdigris)"
                  strokeWidth={4}
                />
                <text x={x(at) + 6} y={top + deep + 34} fontSize={12} fill="var(--verdigris)" fontWeight={600}>
                  {say('rod {{i}}', { i: i + 1 })}
                </text>
              </g>
            );
          })}
      </Drawing>
      <P around="xs" small quiet>
        {overhead
          ? say('Copper: the run as planned or measured; brick dashes: the least height.')
          : say(
              'Copper: duct or cable; ochre dashes: warning tape; brick dashes: cover asked for; ◐ planned, not yet dug; ' +
                'rods drawn from the start of the run, deeper than shown.',
            )}
      </P>
    </Sideways>
  );
}
