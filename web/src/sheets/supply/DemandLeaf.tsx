import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { useId } from 'react';
import { useCircuits } from '../../api/job';
import type { Of } from '../../api/client';
import { useTake } from '../../api/take';
import { CheckList } from '../../parts/CheckList';
import { figure } from '../../parts/figure';
import { Heading, Quiet, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { NewLoadHatch } from '../circuits/NewLoadHatch';
import type { SheetProps } from '../props';

const BarCell = styled('td')({ width: '45%', minWidth: 200 });
const ShareBar = styled('svg')({ width: '100%', height: 18, display: 'block' });

interface Line {
  name: string;
  before: number;
  added: number;
  full: boolean;
}

/** The shares of a demand by what they are: what was there, and what the new circuits add to it. */
function linesOf(demand: Of<'Demand'>): Line[] {
  const lines = new Map<string, Line>();
  for (const s of demand.shares) {
    const line = lines.get(s.name) ?? { name: s.name, before: 0, added: 0, full: false };
    lines.set(s.name, { ...line, before: line.before + (s.new ? 0 : s.amps), added: line.added + (s.new ? s.amps : 0), full: s.full });
  }
  return [...lines.values()].sort((a, b) => b.before + b.added - (a.before + a.added));
}

/**
 * What makes up the maximum demand, without and with the new circuits, against the main fuse. For the talk
 * with the owner and the operator.
 */
export function DemandLeaf({ job, open, opened }: SheetProps) {
  const report = useCircuits(job.id);
  const { take, wrong } = useTake(job);
  const r = report.data?.report;
  const demand = r?.demand;
  const check = r?.job.find((c) => c.leaf === 'demand');
  if (report.error) return <Wrong>{report.error.message}</Wrong>;
  if (!demand) return <p>{report.isPending ? 'Computing …' : say('No demand is computed yet.')}</p>;
  const lines = linesOf(demand);
  const most = Math.max(demand.fuseA, demand.afterA, 1);
  const row = (name: string, before: number, added: number, note: string, total = false) => (
    <tr key={name} data-share={name} style={total ? { fontWeight: 600, borderTop: '1px solid var(--ink)' } : undefined}>
      <td>
        {name} {note && <Quiet>{note}</Quiet>}
      </td>
      <td>{figure(before, 'A')}</td>
      <td>{figure(before + added, 'A')}</td>
      <BarCell>
        <Bar before={before} added={added} fuse={total ? demand.fuseA : 0} most={most} />
      </BarCell>
    </tr>
  );
  return (
    <>
      <Section>
        <Heading
          aside={
            <Quiet>
              {say('solid: there already · hatched: the new circuits · line:')} {say('the main fuse')}
            </Quiet>
          }
        >
          {say('What makes up the maximum demand')}
        </Heading>
        {lines.length === 0 && <p>{say('No load is known yet: list what the house draws on the Survey sheet, or add circuits.')}</p>}
        <Scroll>
          <SheetTable aria-label={say('Maximum demand')}>
            <thead>
              <tr>
                <th scope="col">{say('After diversity')}</th>
                <th scope="col">{say('Without the new circuits')}</th>
                <th scope="col">{say('With them')}</th>
                <th scope="col" aria-label={say('Picture')} />
              </tr>
            </thead>
            <tbody>
              {lines.map((l) => row(l.name, l.before, l.added, l.full ? say('in full, no diversity') : ''))}
              {row(
                say('Together'),
                demand.beforeA,
                demand.addedA,
                demand.fuseA > 0 ? say('of {{fuseA}}', { fuseA: figure(demand.fuseA, 'A') }) : say('main fuse not recorded'),
                true,
              )}
            </tbody>
          </SheetTable>
        </Scroll>
      </Section>
      {check && (
        <Section>
          <Heading aside={<Quiet>{say('the line opens its working')}</Quiet>}>{say('Against the main fuse')}</Heading>
          <CheckList checks={[check]} onOpen={(c) => open(c, take)} opened={opened} />
          {wrong && <Wrong>{wrong}</Wrong>}
        </Section>
      )}
    </>
  );
}

interface Amps {
  before: number;
  added: number;
  fuse: number;
  most: number;
}

function Bar({ before, added, fuse, most }: Amps) {
  const x = (a: number) => (a / (most * 1.05)) * 400;
  const hatch = useId();
  return (
    <ShareBar viewBox="0 0 400 18" preserveAspectRatio="none" aria-hidden="true">
      <NewLoadHatch id={hatch} />
      <rect x="0" y="3" width="400" height="12" fill="var(--wash)" />
      <rect x="0" y="3" width={x(before)} height="12" fill="var(--verdigris)" />
      <rect x={x(before)} y="3" width={Math.max(0, x(added))} height="12" fill={`url(#${hatch})`} />
      {fuse > 0 && <rect x={x(fuse) - 1.5} y="0" width="3" height="18" fill="var(--ink)" />}
    </ShareBar>
  );
}
