import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCircuits, useSheetAsks, useSupply } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { EditTable } from '../../parts/EditTable';
import { NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Caution, Fields, Heading, Quiet, Row, Section } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import type { SheetProps } from '../props';

/** A source of the customer's own: what it carries, and its sequence to step through before anything is bought. For the office and the owner. */
export function StandbyLeaf({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'standby', j.standby);
  const run = useSupply(job.id).data?.standby;
  const checks = (useCircuits(job.id).data?.report.job ?? []).filter((c) => c.leaf === 'standby');
  const bound = part as Part;
  const asks = useSheetAsks('standby');
  return (
    <>
      <Caution>
        Two sources meet at the transfer switch. Disable the start, isolate both and prove both dead before its cover comes off; a source
        that feeds the line back kills who works on it.
      </Caution>
      <Section>
        <Heading aside={<SaveLine part={part} />}>The source</Heading>
        <Fields>
          <TextBox part={bound} path="source" label="What it is" help="empty: none" />
          <YesNoBox part={bound} path="automatic" label="Transfers by itself" sure />
          <NumberBox part={bound} path="sourceVA" label="It can carry" unit="VA" />
          <NumberBox part={bound} path="senseS" label="Waits for the supply" unit="s" />
          <NumberBox part={bound} path="crankS" label="Starts in" unit="s" />
          <NumberBox part={bound} path="warmS" label="Warms up" unit="s" />
          <NumberBox part={bound} path="switchS" label="Switches over in" unit="s" />
          <NumberBox part={bound} path="returnS" label="Watches the return" unit="s" />
          <NumberBox part={bound} path="coolS" label="Cools down" unit="s" />
        </Fields>
      </Section>
      <Section>
        <Heading>What it carries, in the order in which it goes on</Heading>
        <EditTable<Of<'Carry'>>
          part={bound}
          path="carries"
          label="Loads of the standby source"
          add="Add a load"
          fresh={(rows) => ({ name: `Load ${rows.length + 1}`, runVA: 0, startVA: 0, shed: false, legA: true, legB: false })}
          columns={[
            { key: 'name', label: 'Load' },
            { key: 'runVA', label: 'Runs at', unit: 'VA', kind: 'number', width: 90 },
            { key: 'startVA', label: 'Starts at', unit: 'VA', kind: 'number', zero: true, width: 90 },
            { key: 'shed', label: 'Waits for room', kind: 'check', width: 80 },
            ...(asks('legs')
              ? [
                  { key: 'legA', label: 'Leg A', kind: 'check' as const, width: 54 },
                  { key: 'legB', label: 'Leg B', kind: 'check' as const, width: 54 },
                ]
              : []),
          ]}
        />
        {checks.length > 0 && <CheckList checks={checks} onOpen={(c) => open(c)} opened={opened} />}
      </Section>
      <Section>
        <Heading aside={<Quiet>a simulation from the figures above</Quiet>}>When the supply goes, and comes back</Heading>
        {!run || run.frames.length === 0 ? <p>{run?.says ?? 'Computing …'}</p> : <Steps run={run} key={run.frames.length} />}
      </Section>
    </>
  );
}

const clock = (s: number) => {
  const r = Math.round(s);
  return r < 60 ? `${r} s` : `${Math.floor(r / 60)} min ${r % 60} s`;
};

function Steps({ run }: { run: Of<'StandbyRun'> }) {
  const [at, setAt] = useState(0);
  const f = run.frames[Math.min(at, run.frames.length - 1)];
  const go = (n: number) => setAt(Math.max(0, Math.min(run.frames.length - 1, n)));
  return (
    <div
      data-frame={at}
      onKeyDown={(e) => {
        if (e.key === 'ArrowRight') go(at + 1);
        if (e.key === 'ArrowLeft') go(at - 1);
      }}
    >
      <p style={{ margin: '2px 0' }}>
        Dark for <b>{clock(run.darkS)}</b>; it runs <b>{clock(run.afterS)}</b> after the supply is back.
      </p>
      <Row>
        <Button onClick={() => go(at - 1)} disabled={at === 0}>
          Step back
        </Button>
        <Button variant="contained" onClick={() => go(at + 1)} disabled={at === run.frames.length - 1}>
          Next step
        </Button>
        <span>
          {at + 1} of {run.frames.length}, at <b>{clock(f.atS)}</b>
        </span>
      </Row>
      <p role="status" style={{ margin: '8px 0 4px' }}>
        <b>{f.title}.</b> {f.says}
      </p>
      <Sides f={f} />
      <p style={{ margin: '4px 0' }}>
        {f.on.length > 0 && <>On the source: {f.on.join(', ')}. </>}
        {f.waiting.length > 0 && <Quiet>Waiting: {f.waiting.join(', ')}.</Quiet>}
      </p>
    </div>
  );
}

/** The two sides, the switch between them and the load. */
function Sides({ f }: { f: Of<'StandbyFrame'> }) {
  const side = (x: number, name: string, live: boolean, says: string) => (
    <g transform={`translate(${x} 6)`}>
      <rect
        width="150"
        height="44"
        fill={live ? 'var(--wash)' : 'var(--sheet)'}
        stroke="var(--ink)"
        strokeDasharray={live ? undefined : '5 4'}
      />
      <text x="75" y="19" textAnchor="middle" fontSize="13" fontWeight="700" fill="var(--ink)">
        {name}
      </text>
      <text x="75" y="36" textAnchor="middle" fontSize="11" fill="var(--ink2)">
        {says}
      </text>
    </g>
  );
  const arm = f.switch === 'utility' ? 95 : f.switch === 'source' ? 305 : 200;
  const armY = f.switch === 'none' ? 78 : 88;
  const fed = f.fed !== 'none';
  return (
    <svg
      viewBox="0 0 400 190"
      style={{ width: '100%', maxWidth: 460, display: 'block' }}
      role="img"
      aria-label={`Supply ${f.supply ? 'there' : 'away'}; source ${f.running ? 'runs' : 'stands'}; switch on ${f.switch}; load ${fed ? `fed by the ${f.fed}` : 'dark'}`}
    >
      {side(20, 'utility', f.supply, f.supply ? 'there' : 'away')}
      {side(230, 'source', f.running, f.running ? 'runs' : 'stands')}
      <path d="M95 50 V84 M305 50 V84 M200 112 V136" stroke="var(--copper)" strokeWidth="3" fill="none" />
      {[95, 305].map((x) => (
        <circle key={x} cx={x} cy="88" r="5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
      ))}
      <circle cx="200" cy="112" r="5" fill="var(--ink)" />
      <line x1="200" y1="112" x2={arm} y2={armY} stroke="var(--ink)" strokeWidth="4" />
      <rect
        x="95"
        y="136"
        width="210"
        height="46"
        fill={fed ? 'var(--wash)' : 'var(--sheet)'}
        stroke="var(--ink)"
        strokeDasharray={fed ? undefined : '5 4'}
      />
      <text x="200" y="156" textAnchor="middle" fontSize="13" fontWeight="700" fill="var(--ink)">
        {fed ? `load, fed by the ${f.fed}` : 'load, dark'}
      </text>
      <text x="200" y="173" textAnchor="middle" fontSize="11" fill={f.over ? 'var(--brick)' : 'var(--ink2)'}>
        {f.fed === 'source' ? `${figure(f.loadVA, 'VA')}${f.over ? ', too much' : ''}` : ''}
      </text>
    </svg>
  );
}
