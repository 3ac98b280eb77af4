import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { useId } from 'react';
import type { Of } from '../../api/client';
import { figure } from '../../parts/figure';
import { Quiet } from '../../parts/layout';
import { NewLoadHatch } from './NewLoadHatch';

const Whole = styled('button')({
  display: 'flex',
  flexWrap: 'wrap',
  gap: '4px 22px',
  alignItems: 'center',
  width: '100%',
  border: 0,
  background: 'transparent',
  font: 'inherit',
  color: 'inherit',
  textAlign: 'left',
  cursor: 'pointer',
  padding: 0,
  marginBottom: 10,
});
const Bars = styled('span')({ flex: '1 1 420px', minWidth: 280 });
const Bar = styled('svg')({ width: '100%', height: 28, display: 'block' });

/** What makes up the maximum demand, with the new work hatched, against the main fuse. */
export function DemandBar({ demand, check, onOpen }: { demand: Of<'Demand'>; check?: Of<'Check'>; onOpen: () => void }) {
  const hatch = useId();
  const most = Math.max(demand.fuseA, demand.afterA, 1) * 1.08;
  let at = 0;
  const parts = demand.shares.map((s) => {
    const from = at;
    at += s.amps;
    return { ...s, from };
  });
  const x = (a: number) => (a / most) * 640;
  const left = demand.fuseA - demand.afterA;
  return (
    <Whole type="button" onClick={onOpen} onKeyDown={(e) => e.key === 'w' && onOpen()} title={say('open the working')}>
      <Bars>
        <Bar viewBox="0 0 640 28" preserveAspectRatio="none" aria-hidden="true">
          <NewLoadHatch id={hatch} />
          <rect x="0" y="4" width="640" height="20" fill="var(--wash)" />
          {parts.map((p, i) => (
            <rect
              key={p.name + i}
              x={x(p.from)}
              y="4"
              width={Math.max(0, x(p.amps) - 1)}
              height="20"
              fill={p.new ? `url(#${hatch})` : 'var(--verdigris)'}
              opacity={p.new ? 1 : 1 - (i % 3) * 0.28}
            />
          ))}
          {demand.fuseA > 0 && <rect x={x(demand.fuseA) - 1.5} y="0" width="3" height="28" fill="var(--ink)" />}
        </Bar>
        <Quiet>
          {parts.map((p) => `${p.new ? '+ ' : ''}${p.name} ${figure(p.amps, 'A')}${p.full ? say(' in full') : ''}`).join(' · ')}
        </Quiet>
      </Bars>
      <span>
        <b data-figure="demand">{figure(demand.afterA, 'A')}</b>{' '}
        {say('maximum demand, {{beforeA}} before', { beforeA: figure(demand.beforeA, 'A') })}
        <br />
        <Quiet style={check?.verdict === 'fail' ? { color: 'var(--brick)', fontWeight: 600 } : undefined}>
          {demand.fuseA > 0
            ? left >= 0
              ? say('{{left}} left of the {{fuseA}} {{x}}', { left: figure(left, 'A'), fuseA: figure(demand.fuseA, 'A'), x: say('fuse') })
              : say('{{x}} over the {{fuseA}} {{x2}}', { x: figure(-left, 'A'), fuseA: figure(demand.fuseA, 'A'), x2: say('fuse') })
            : say('main fuse not recorded')}
        </Quiet>
      </span>
    </Whole>
  );
}
