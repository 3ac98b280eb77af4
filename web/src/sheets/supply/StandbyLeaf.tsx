import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCircuits, useSheetAsks, useSupply } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { EditTable } from '../../parts/EditTable';
import { NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Caution, Drawing, Fields, Heading, P, Quiet, Row, Section } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import type { SheetProps } from '../props';

/**
 * A source of the customer's own: what it carries, and its sequence to step through before anything is
 * bought. For the office and the owner.
 */
export function StandbyLeaf({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'standby', j.standby);
  const run = useSupply(job.id).data?.standby;
  const checks = (useCircuits(job.id).data?.report.job ?? []).filter((c) => c.leaf === 'standby');
  const bound = part as Part;
  const asks = useSheetAsks('standby');
  return (
    <>
      <Caution>
        {say(
          'Two sources meet at the transfer switch. Disable the start, isolate both and prove both dead before its ' +
            'cover comes off; a source that feeds the line back kills who works on it.',
        )}
      </Caution>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('The source')}</Heading>
        <Fields>
          <TextBox part={bound} path="source" label={say('What it is')} help={say('empty: none')} />
          <YesNoBox part={bound} path="automatic" label={say('Transfers by itself')} sure />
          <NumberBox part={bound} path="sourceVA" label={say('It can carry')} unit="VA" />
          <NumberBox part={bound} path="senseS" label={say('Waits for the supply')} unit="s" />
          <NumberBox part={bound} path="crankS" label={say('Starts in')} unit="s" />
          <NumberBox part={bound} path="warmS" label={say('Warms up')} unit="s" />
          <NumberBox part={bound} path="switchS" label={say('Switches over in')} unit="s" />
          <NumberBox part={bound} path="returnS" label={say('Watches the return')} unit="s" />
          <NumberBox part={bound} path="coolS" label={say('Cools down')} unit="s" />
        </Fields>
      </Section>
      <Section>
        <Heading>{say('What it carries, in the order in which it goes on')}</Heading>
        <EditTable
          part={bound}
          path="carries"
          label={say('Loads of the standby source')}
          add={say('Add a load')}
          newRow={(rows) => ({
            name: say('Load {{rows}}', { rows: rows.length + 1 }),
            runVA: 0,
            startVA: 0,
            shed: false,
            legA: true,
            legB: false,
          })}
          columns={[
            { key: 'name', label: say('Load') },
            { key: 'runVA', label: say('Runs at'), unit: say('VA'), kind: 'number', width: 90 },
            { key: 'startVA', label: say('Starts at'), unit: say('VA'), kind: 'number', zero: true, width: 90 },
            { key: 'shed', label: say('Waits for room'), kind: 'check', width: 80 },
            ...(asks('legs')
              ? [
                  { key: 'legA', label: say('Leg A'), kind: 'check' as const, width: 54 },
                  { key: 'legB', label: say('Leg B'), kind: 'check' as const, width: 54 },
                ]
              : []),
          ]}
        />
        {checks.length > 0 && <CheckList checks={checks} onOpen={(c) => open(c)} opened={opened} />}
      </Section>
      <Section>
        <Heading aside={<Quiet>{say('a simulation from the figures above')}</Quiet>}>{say('When the supply goes, and comes back')}</Heading>
        {!run || run.frames.length === 0 ? <p>{run?.summary ?? 'Computing …'}</p> : <Steps run={run} key={run.frames.length} />}
      </Section>
    </>
  );
}

const clock = (s: number) => {
  const r = Math.round(s);
  return r < 60 ? `${r} s` : say('{{r}} min {{r2}} s', { r: Math.floor(r / 60), r2: r % 60 });
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
      <P around="xs">
        {say('Dark for')} <b>{clock(run.darkS)}</b>
        {say('; it runs')} <b>{clock(run.afterS)}</b> {say('after the supply is back.')}
      </P>
      <Row>
        <Button onClick={() => go(at - 1)} disabled={at === 0}>
          {say('Step back')}
        </Button>
        <Button variant="contained" onClick={() => go(at + 1)} disabled={at === run.frames.length - 1}>
          {say('Next step')}
        </Button>
        <span>
          {say('{{at}} of {{frames}}, at', { at: at + 1, frames: run.frames.length })} <b>{clock(f.atS)}</b>
        </span>
      </Row>
      <P role="status" above="s" below="xs">
        <b>{f.title}.</b> {f.summary}
      </P>
      <Sides f={f} />
      <P around="xs">
        {f.on.length > 0 && <>{say('On the source: {{on}}.', { on: f.on.join(', ') })} </>}
        {f.waiting.length > 0 && <Quiet>{say('Waiting: {{waiting}}.', { waiting: f.waiting.join(', ') })}</Quiet>}
      </P>
    </div>
  );
}

/** The two sides, the switch between them and the load. */
function Sides({ f }: { f: Of<'StandbyFrame'> }) {
  const side = (x: number, name: string, live: boolean, summary: string) => (
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
        {summary}
      </text>
    </g>
  );
  const arm = f.switch === 'utility' ? 95 : f.switch === 'source' ? 305 : 200;
  const armY = f.switch === 'none' ? 78 : 88;
  const fed = f.fed !== 'none';
  return (
    <Drawing
      viewBox="0 0 400 190"
      most={460}
      role="img"
      aria-label={say('Supply {{x}}; source {{x2}}; switch on {{switch}}; load {{x3}}', {
        x: f.supply ? 'there' : 'away',
        x2: f.running ? 'runs' : 'stands',
        switch: f.switch,
        x3: fed ? say('fed by the {{fed}}', { fed: f.fed }) : 'dark',
      })}
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
        {fed ? say('load, fed by the {{fed}}', { fed: f.fed }) : say('load, dark')}
      </text>
      <text x="200" y="173" textAnchor="middle" fontSize="11" fill={f.over ? 'var(--brick)' : 'var(--ink2)'}>
        {f.fed === 'source' ? `${figure(f.loadVA, 'VA')}${f.over ? say(', too much') : ''}` : ''}
      </text>
    </Drawing>
  );
}
