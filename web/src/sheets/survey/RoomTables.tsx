import { styled } from '@mui/material/styles';
import { useState } from 'react';
import { DateBox } from '../../parts/DateBox';
import { say } from '../../words/words';
import { type Of } from '../../api/client';
import { useCircuits, useSheetAsks, useTerms } from '../../api/job';
import { type Part } from '../../api/part';
import type { Column } from '../../parts/column';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, NumberBox, YesNoBox, bases, choices } from '../../parts/fields';
import { useUnits } from '../../parts/units';
import { Block, Details, Fields, Fixed, P, Quiet, Row } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { OneOf } from '../../parts/OneOf';
import { Photos } from '../../parts/Photos';
import { useBathAsked } from './BathFields';
import { OnCircuits } from './OnCircuits';
import { WallDrawing } from './WallDrawing';
import { Cuts } from './Cuts';
import { freshPoint } from './points';

const Line = styled('p')({ display: 'flex', gap: 8, margin: '6px 0' });

const states = [
  { id: 'new', name: 'new' },
  { id: 'kept', name: 'stays' },
  { id: 'moved', name: 'moved' },
  { id: 'removed', name: 'goes' },
];

type PointColumn = Column<Of<'RoomPoint'>>;

/** The same points as a table: what each is, where it goes, and what its luminaires take. */
export function PointTable({ job, part }: { job: Of<'JobView'>; part: Part<Of<'Room'>> }) {
  const units = useUnits();
  const terms = useTerms().data;
  const [side, setSide] = useState<'what' | 'where' | 'lamps' | 'built'>('what');
  const kinds = terms?.survey.kinds ?? [];
  const switching = [{ id: '', name: '–' }, ...choices(terms?.survey.switching)];
  const bath = useBathAsked(job, part.value);
  const kindOf = (p: Of<'RoomPoint'>) => kinds.find((k) => k.id === p.kind);
  const dark = (p: Of<'RoomPoint'>) => !kindOf(p)?.light;
  const what: PointColumn[] = [
    { key: 'state', label: say('State'), kind: 'choice', width: 96, options: states },
    { key: 'switching', label: say('Switched'), kind: 'choice', width: 120, options: switching },
    { key: 'dimmed', label: say('Dim'), kind: 'check', width: 34 },
    { key: 'powerW', label: say('Power'), unit: 'W', kind: 'number', width: 76, zero: true },
    { key: 'currentA', label: say('Current'), unit: 'A', kind: 'number', width: 76, zero: true },
    { key: 'fedFrom', label: say('Fed from'), width: 110 },
    { key: 'note', label: say('Note') },
  ];
  const where: PointColumn[] = [
    { key: 'heightMM', label: say('Height'), scale: units.mm, kind: 'number', width: 80, zero: true },
    { key: 'wall', label: say('Wall'), width: 100 },
    { key: 'offsetMM', label: say('Along it'), scale: units.mm, kind: 'number', width: 80, zero: true },
    { key: 'box', label: say('Box'), width: 110 },
    ...(bath
      ? ([
          { key: 'bathMM', label: say('From bath or tray'), scale: units.mm, kind: 'number', optional: true, width: 110, keep: true },
          { key: 'inside', label: say('Inside it'), kind: 'check', width: 60 },
          { key: 'ip', label: say('IP'), width: 70, keep: true },
        ] satisfies PointColumn[])
      : []),
    { key: 'ductM', label: say('Air duct'), scale: units.m, kind: 'number', width: 80, zero: true, hide: (p) => !kindOf(p)?.duct },
  ];
  const lamps: PointColumn[] = [
    {
      key: 'lamp.cap',
      label: say('Lamp cap'),
      kind: 'choice',
      width: 120,
      options: [{ id: '', name: '–' }, ...choices(terms?.survey.lampCaps)],
      hide: dark,
    },
    { key: 'lamp.colourK', label: say('Colour'), unit: 'K', kind: 'number', width: 90, zero: true, hide: dark },
    { key: 'lamp.powerW', label: say('Power of one'), unit: 'W', kind: 'number', width: 110, zero: true, hide: dark },
    { key: 'lamp.each', label: say('In each'), kind: 'number', width: 80, zero: true, hide: dark },
    { key: 'lamp.dims', label: say('Stated to dim'), kind: 'check', width: 80, hide: dark },
    {
      key: 'lamp.cutOutMM',
      label: say('Cut-out'),
      scale: units.mm,
      kind: 'number',
      width: 80,
      zero: true,
      hide: (p) => !kindOf(p)?.recessed,
    },
  ];
  const loose = (p: Of<'RoomPoint'>) => !kindOf(p)?.builtIn;
  const built: PointColumn[] = [
    { key: 'built.cordMM', label: say('Its cord'), scale: units.mm, kind: 'number', width: 90, zero: true, hide: loose },
    { key: 'built.awayMM', label: say('Way to its connection'), scale: units.mm, kind: 'number', width: 130, zero: true, hide: loose },
    { key: 'built.reached', label: say('Switch reached without moving it'), yesNo: true, width: 170, hide: loose },
    { key: 'built.drawer', label: say('Drawer under it'), yesNo: true, width: 120, hide: loose },
  ];
  return (
    <>
      <Block below="s">
        <OneOf
          label={say('What the table shows')}
          value={side}
          onChange={setSide}
          choices={[
            { id: 'what', name: say('What it is') },
            { id: 'where', name: say('Where it goes') },
            ...(part.value.points.some((p) => kindOf(p)?.builtIn) ? [{ id: 'built' as const, name: say('Built in') }] : []),
            ...(part.value.points.every(dark) ? [] : [{ id: 'lamps' as const, name: say('Lamps') }]),
          ]}
        />
      </Block>
      <EditTable
        part={part}
        path="points"
        label={say('Points of {{name}}', { name: part.value.name })}
        add={say('Add a point')}
        newRow={() => freshPoint('socket-2', 'new')}
        columns={[
          { key: 'count', label: say('No.'), kind: 'number', width: 46 },
          { key: 'kind', label: say('Point'), kind: 'choice', width: 190, options: kinds.map((k) => ({ id: k.id, name: k.name })) },
          ...{ what, where, lamps, built }[side],
        ]}
      />
      <Row above="s">
        <Fixed least={200}>
          <ChoiceBox
            part={part}
            path="finish"
            label={say('Finish of the plates')}
            options={[{ id: '', name: say('as in the house') }, ...(terms?.survey.finishes ?? [])]}
          />
        </Fixed>
      </Row>
      <Quiet>
        {say(
          'An empty height is the usual one of the kind; an empty box the usual box. Power or current may be left open until it is known.',
        )}
      </Quiet>
      <Against part={part} />
      <OnCircuits job={job} room={part.value} name={(p) => kinds.find((k) => k.id === p.kind)?.name ?? p.typed} />
      <Details>
        <summary>{say('Photos of single points')}</summary>
        {part.value.points.map((p) => (
          <Row key={p.id} pad="xs">
            <Fixed least={180}>
              {p.count} × {kinds.find((k) => k.id === p.kind)?.name ?? p.typed}
            </Fixed>
            <Photos job={job} subject={p.id} what={kinds.find((k) => k.id === p.kind)?.name ?? 'point'} small />
          </Row>
        ))}
      </Details>
    </>
  );
}

/** What stands against the walls of a room, or will: points behind it are remarked on. */
function Against({ part }: { part: Part<Of<'Room'>> }) {
  const units = useUnits();
  return (
    <Details open={part.value.furniture.length > 0}>
      <summary>{say('Furniture and worktops against the walls')}</summary>
      <EditTable
        part={part}
        path="furniture"
        label={say('Furniture of {{name}}', { name: part.value.name })}
        add={say('Add a piece')}
        newRow={() => ({ name: say('worktop'), kind: 'worktop' as const, wall: say('north'), fromMM: 0, toMM: 0, topMM: 900 })}
        columns={[
          { key: 'name', label: say('What') },
          {
            key: 'kind',
            label: say('Points'),
            kind: 'choice',
            width: 150,
            options: [
              { id: 'stands', name: say('behind it are hidden') },
              { id: 'worktop', name: say('above it keep clear') },
            ],
          },
          { key: 'wall', label: say('Wall'), width: 90 },
          { key: 'fromMM', label: say('From'), scale: units.mm, kind: 'number', width: 80, zero: true },
          { key: 'toMM', label: say('To'), scale: units.mm, kind: 'number', width: 80 },
          { key: 'topMM', label: say('Top'), scale: units.mm, kind: 'number', width: 80, zero: true },
        ]}
      />
      <Quiet>
        {say(
          'Along the wall from its left end as one faces it; the wall as its points name it. The setting-out remarks on what is hidden.',
        )}
      </Quiet>
    </Details>
  );
}

/** The wall lines of a room in walking order, drawn, with the receptacles along each. */
function Walls({ job, part }: { job: Of<'JobView'>; part: Part<Of<'Room'>> }) {
  const asks = useSheetAsks('survey');
  const units = useUnits();
  const check = useCircuits(job.id).data?.report.job.find((c) => c.sheet === 'survey' && c.object === part.value.id);
  if (!asks('walls')) return null;
  return (
    <Details open={part.value.walls.length > 0}>
      <summary>{say('Walls and counters, for the spacing of receptacles')}</summary>
      <WallDrawing walls={part.value.walls} show={(m) => units.show(m, 'm')} />
      {check && (
        <Line data-spacing={check.verdict}>
          <Mark verdict={check.verdict} /> <span>{check.summary}</span>
        </Line>
      )}
      <EditTable
        part={part}
        path="walls"
        label={say('Wall lines in walking order')}
        add={say('Add a wall line')}
        newRow={() => ({ lengthM: 3.048, counter: false, has: 0 })}
        columns={[
          { key: 'lengthM', label: say('Unbroken length'), unit: 'm', kind: 'number', width: 110 },
          { key: 'counter', label: say('A counter'), kind: 'check', width: 70 },
          { key: 'has', label: say('Receptacles on it'), kind: 'number', width: 110 },
        ]}
      />
      <Quiet>{say('A line runs around corners and ends at a door, a fireplace or a cabinet that is fixed.')}</Quiet>
    </Details>
  );
}

/** The way a cable takes to the room, measured and estimated kept apart, and the construction that decides the method. */
export function WayFields({ job, part, view }: { job: Of<'JobView'>; part: Part<Of<'Room'>>; view?: Of<'RoomView'> }) {
  const units = useUnits();
  const terms = useTerms().data;
  const fabric = (where: string) =>
    (terms?.survey.fabric ?? []).filter((f) => f.where === where).map((f) => ({ id: f.name, name: `${f.name} · ${f.method}` }));
  const rooms = job.view.job?.rooms ?? [];
  return (
    <>
      <Fields>
        <ChoiceBox
          part={part}
          path="from"
          label={say('Cables come through')}
          empty={say('the board')}
          options={rooms.filter((r) => r.id !== part.value.id).map((r) => ({ id: r.id, name: r.name }))}
        />
        <ChoiceBox part={part} path="wall" label={say('Walls')} empty={say('not recorded')} options={fabric('wall')} />
        <ChoiceBox part={part} path="under" label={say('Floor')} empty={say('not recorded')} options={fabric('under')} />
        <ChoiceBox part={part} path="ceiling" label={say('Ceiling')} empty={say('not recorded')} options={fabric('ceiling')} />
        {job.view.walk.lowVoltage.rooms.some((r) => r.room === part.value.id) && (
          <>
            <NumberBox
              part={part}
              path="apartMM"
              label={say('Data and bell cables from power, at the closest')}
              unit="mm"
              help={say('0: not read')}
              scale={units.mm}
            />
            <YesNoBox part={part} path="divided" label={say('A divider between them')} sure />
          </>
        )}
        <DateBox part={part} path="closed" label={say('Walls closed on')} help={say('from then on a change means reopening')} />
      </Fields>
      <Block above="m" />
      <EditTable
        part={part}
        path="legs"
        label={say('Way of the cable, from there')}
        add={say('Add a stretch')}
        newRow={() => ({ place: say('along the wall'), lengthM: 1, basis: 'assumed' as const, through: '' })}
        columns={[
          { key: 'place', label: say('Stretch') },
          { key: 'lengthM', label: say('Length'), scale: units.m, kind: 'number', width: 78 },
          { key: 'basis', label: say('Known by'), kind: 'choice', width: 116, options: bases('measured', 'drawing', '◐ estimated') },
          { key: 'through', label: say('Through'), width: 160 },
        ]}
      />
      <P around="s">
        {view?.routeKnown ? (
          <>
            {say('From the board:')} <b>{units.show(view.measuredM + view.estimatedM, 'm')}</b>
            {say(', {{measuredM}} measured, {{estimatedM}} estimated.', {
              measuredM: units.show(view.measuredM, 'm'),
              estimatedM: units.show(view.estimatedM, 'm'),
            })}
          </>
        ) : (
          <Quiet>{say('○ The cable route from the board is not recorded{{x}}.', { x: part.value.from ? say(' all along') : '' })}</Quiet>
        )}{' '}
        {view?.method && <Quiet>{say('Installation: {{method}}.', { method: view.method })}</Quiet>}
      </P>
      <Cuts job={job} part={part} />
      <Walls job={job} part={part} />
    </>
  );
}
