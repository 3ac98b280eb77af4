import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useCircuits, useDark, useSheetAsks, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { useTake } from '../../api/take';
import { CheckList } from '../../parts/CheckList';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { Details, Fields, Heading, NotYet, Section, Wrong } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead } from '../../parts/SheetHead';
import type { SheetProps } from '../props';
import { AddWays } from './AddWays';
import { LegsDrawing } from './LegsDrawing';
import { PanelFace } from './PanelFace';
import { WhatGoesDark } from './WhatGoesDark';
import { freeWays, following } from './ways';

/** The board as found: its ways, which are taken, free or open. For the hall, in front of it. */
export function BoardSheet({ job, j, open, opened }: SheetProps) {
  const terms = useTerms().data;
  const asks = useSheetAsks('board');
  const report = useCircuits(job.id).data?.report;
  const dark = useDark(job.id).data;
  const checks = (report?.job ?? []).filter((c) => c.sheet === 'board');
  const { take, wrong } = useTake(job);
  const part = usePart(job, 'board', j.board);
  const board = part.value;
  const free = freeWays(j, terms?.columns).length;
  return (
    <>
      <SheetHead
        title={say('Board')}
        job={job.id}
        summary={
          board.ways.length
            ? say('{{ways}} {{x}}, {{free}} free.', { ways: board.ways.length, x: say('Ways').toLowerCase(), free })
            : say('The ways are not yet written down.')
        }
        tables={[['board', say('Ways')]]}
      />
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('As found')}</Heading>
        <Fields>
          <TextBox part={part} path="name" label={say('Name')} />
          <TextBox part={part} path="location" label={say('Location')} />
          {asks('place') && (
            <ChoiceBox
              part={part}
              path="place"
              label={say('Kind of place')}
              empty={say('not looked at')}
              options={terms?.boardPlaces ?? []}
            />
          )}
          {asks('conditionalKA') && (
            <NumberBox
              part={part}
              path="conditionalKA"
              label={say('Conditional rating declared')}
              unit="kA"
              help={say('of the board, by its manufacturer, behind the main fuse; 0: none')}
            />
          )}
          <TextBox part={part} path="material" label={say('Material')} />
          <FactBox part={part} path="mainSwitchA" label={say('Main switch')} unit="A" />
        </Fields>
        {asks('space') && <WorkSpace part={part} />}
      </Section>
      {board.ways.length > 0 &&
        (terms?.columns === 2 ? <PanelFace ways={board.ways} circuits={j.circuits} /> : <Face ways={board.ways} circuits={j.circuits} />)}
      {report?.legs && <LegsDrawing legs={report.legs} job={job} j={j} />}
      {checks.length > 0 && (
        <Section>
          <Heading>{asks('loads') ? say('Checks of the panel') : say('Lost when it trips, and heat')}</Heading>
          <CheckList checks={checks} onOpen={(c) => open(c, take)} opened={opened} />
        </Section>
      )}
      {dark && dark.devices.length > 0 && <WhatGoesDark dark={dark} j={j} frozen={job.view.frozen} take={take} />}
      {wrong && <Wrong>{wrong}</Wrong>}
      <Section>
        <Heading>{say('Ways')}</Heading>
        <EditTable
          part={part}
          path="ways"
          label={say('Ways of the board')}
          newRow={(rows) => following(rows, 1)[0]}
          columns={[
            { key: 'no', label: say('Way'), kind: 'number', width: 60 },
            { key: 'label', label: say('What it feeds') },
            { key: 'device', label: say('Device'), width: 120 },
            ...(asks('loads')
              ? [
                  { key: 'poles' as const, label: say('Poles'), kind: 'number' as const, zero: true, width: 60 },
                  { key: 'loadA' as const, label: say('Its load'), unit: 'A', kind: 'number' as const, zero: true, width: 80 },
                ]
              : []),
            { key: 'blank' as const, label: say('Blank fitted'), kind: 'check', width: 90 },
          ]}
        />
        <AddWays part={part} />
      </Section>
      {asks('groups') && (
        <Section>
          <Heading>{say('Residual-current devices that circuits share')}</Heading>
          <EditTable
            part={part}
            path="groups"
            label={say('Shared residual-current devices')}
            add={say('Add a shared device')}
            newRow={(rows) => {
              let n = rows.length + 1;
              while (rows.some((g) => g.id === `g${n}`)) n++;
              return {
                id: `g${n}`,
                name: say('Shared device {{n}}', { n }),
                rcdType: terms?.rcdTypes[1]?.id ?? '',
                idnMA: terms?.residualMA ?? 0,
                ratingA: 63,
                delayed: false,
              };
            }}
            columns={[
              { key: 'name', label: say('Name') },
              { key: 'rcdType', label: say('Type'), kind: 'choice', width: 80, options: terms?.rcdTypes ?? [] },
              { key: 'idnMA', label: say('Residual'), unit: 'mA', kind: 'number', width: 90 },
              { key: 'ratingA', label: say('Rating'), unit: 'A', kind: 'number', width: 80 },
              { key: 'delayed', label: say('Delayed'), kind: 'check', width: 80 },
            ]}
          />
          <Fields above="m">
            <NumberBox
              part={part}
              path="makerRDF"
              label={say('Board manufacturer’s diversity factor')}
              help={say('0: not given; the table’s is taken')}
            />
          </Fields>
        </Section>
      )}
      <NotYet>
        {say(
          'order of the devices by current or by heat, several boards. A new circuit takes its way, or a shared ' +
            'device, on the Circuits sheet.',
        )}
      </NotYet>
    </>
  );
}

/** The room to work in front of the board, as measured with a tape. */
function WorkSpace({ part }: { part: Part }) {
  return (
    <Details>
      <summary>{say('Room to work in front of it, measured')}</summary>
      <Fields>
        <NumberBox part={part} path="space.depthMM" label={say('Free depth')} unit="mm" />
        <NumberBox part={part} path="space.widthMM" label={say('Free width')} unit="mm" />
        <NumberBox part={part} path="space.heightMM" label={say('Free height')} unit="mm" />
        <NumberBox part={part} path="space.boardMM" label={say('The board is wide')} unit="mm" />
        <NumberBox part={part} path="space.topMM" label={say('Its top above the floor')} unit="mm" />
        <NumberBox part={part} path="space.handleMM" label={say('Highest handle above the floor')} unit="mm" />
        <YesNoBox part={part} path="space.door90" label={say('Its door opens by 90°')} />
      </Fields>
    </Details>
  );
}

const pitch = 62;

/** The face of the board, way by way. */
function Face({ ways, circuits }: { ways: Of<'Way'>[]; circuits: Of<'Circuit'>[] }) {
  const perRow = 12;
  const rows = Math.ceil(ways.length / perRow);
  const text = ways
    .map((w) =>
      say('way {{no}}: {{name}}', {
        no: w.no,
        name: circuits.find((c) => c.protection.way === w.no)?.name ?? (w.label || (w.blank ? 'blank' : say('free, open'))),
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
          const name = c?.name ?? w.label;
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
                strokeDasharray={empty && !w.blank ? '4 3' : undefined}
              />
              <text x={x + 6} y={y + 16} fontSize="13" fontWeight="700" fill="var(--ink)">
                {w.no}
              </text>
              {!empty && <rect x={x + 20} y={y + 24} width="18" height="26" fill="none" stroke="var(--ink)" />}
              {!empty && <rect x={x + 23} y={y + 27} width="12" height="10" fill={c ? 'var(--copper)' : 'var(--ink2)'} />}
              <text x={x + 6} y={y + 66} fontSize="11" fontWeight="600" fill="var(--ink)">
                {c ? c.protection.curve + c.protection.ratingA : w.device || (w.blank ? 'blank' : 'open')}
              </text>
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
