import { msg, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Trouble, type Of } from '../../api/client';
import { keep, queries, useCircuits, useRemovePart, useSheetAsks, useTerms, useWalk } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { get, textOf } from '../../api/paths';
import { EditTable, type Column } from '../../parts/EditTable';
import { TextBox, ChoiceBox, bases, choices } from '../../parts/fields';
import { useUnits } from '../../parts/units';
import { styled } from '@mui/material/styles';
import type { Working } from '../../parts/CheckList';
import { Fields, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { SaveLine } from '../../parts/SaveLine';
import { ReadLine, useReading } from './ShorthandEntry';
import { BathFields, useBathAsked } from './BathFields';
import { TapKeys } from './TapKeys';
import { WallDrawing } from './WallDrawing';
import { freshPoint } from './points';

interface Props {
  job: Of<'JobView'>;
  room: Of<'Room'>;
  view?: Of<'RoomView'>;
  open: boolean;
  onOpen: () => void;
  before?: Of<'Room'>;
  after?: Of<'Room'>;
  working: Working;
  mode: string;
  setMode: (m: string) => void;
}

const Head = styled('button')({
  display: 'grid',
  gridTemplateColumns: 'minmax(110px, 170px) minmax(0, 1fr) auto',
  gap: '2px 10px',
  width: '100%',
  font: 'inherit',
  textAlign: 'left',
  color: 'var(--ink)',
  background: 'transparent',
  border: 0,
  borderLeft: '4px solid transparent',
  padding: 6,
  minHeight: 44,
  cursor: 'pointer',
  '&[data-open=true]': { background: 'var(--wash)', borderLeftColor: 'var(--copper)' },
  '& .line': { overflowWrap: 'anywhere' },
  '& .total': { minWidth: 24, textAlign: 'right' },
  '@media (max-width:700px)': {
    gridTemplateColumns: 'minmax(0, 1fr) auto',
    '& .line': { gridColumn: '1 / -1', gridRow: 2 },
    '& br': { display: 'none' },
    '& b + br + span': { marginLeft: 8 },
  },
});

const modes = [
  { id: 'keys', name: msg('Keys') },
  { id: 'line', name: msg('Shorthand') },
  { id: 'table', name: msg('Table') },
  { id: 'way', name: msg('Cable route and construction') },
];

/** One room of the walk: its line as it is written, and open, its keys, line, table, photos and the way of its cables. */
export function RoomCard({ job, room, view, open, onOpen, before, after, working, mode, setMode }: Props) {
  const part = usePart(job, `rooms/${room.id}`, room);
  const remove = useRemovePart(job.id);
  const total = room.points.reduce((n, p) => n + (p.state === 'removed' ? 0 : p.count), 0);
  const r = part.value;
  const move = (other: Of<'Room'>, beyond: Of<'Room'> | undefined, step: number) =>
    part.save('at', beyond ? (other.at + beyond.at) / 2 : other.at + step);
  return (
    <Section data-room={room.name} style={{ marginBottom: 0, borderBottom: '1px solid var(--rule)' }}>
      <Head type="button" aria-expanded={open} onClick={onOpen} data-open={open}>
        <span>
          <b>{room.name}</b>
          <br />
          <Quiet>
            {[room.floor, room.kind === room.name.toLowerCase() ? '' : room.kind].filter(Boolean).join(' · ') || say('floor not said')}
          </Quiet>
        </span>
        <span className="line">
          {view?.line.slice(view.line.indexOf(':') + 1) || <Quiet>{say('nothing counted yet')}</Quiet>}
          {room.skipped && <Quiet> {say('· not seen: {{skipped}}', { skipped: room.skipped })}</Quiet>}
          {!!view?.unread && <b style={{ color: 'var(--brick)' }}> {say('· {{unread}} not understood', { unread: view.unread })}</b>}
        </span>
        <b className="total">{total}</b>
      </Head>
      {open && (
        <div style={{ padding: '8px 6px 14px 10px' }}>
          <Row style={{ marginBottom: 8 }}>
            <Row role="group" aria-label={say('How this room is entered')} style={{ gap: 4 }}>
              {modes.map((m) => (
                <Button
                  key={m.id}
                  aria-pressed={m.id === mode}
                  variant={m.id === mode ? 'contained' : 'outlined'}
                  onClick={() => setMode(m.id)}
                >
                  {say(m.name)}
                </Button>
              ))}
            </Row>
            <span style={{ marginLeft: 'auto' }}>
              <SaveLine part={part} />
            </span>
          </Row>
          {mode === 'keys' && <TapKeys part={part} />}
          {mode === 'line' && view && <RoomLine key={view.line} job={job} room={room} line={view.line} />}
          {mode === 'table' && <PointTable job={job} part={part} />}
          <BathFields job={job} part={part} asked={mode === 'way'} working={working} />
          {mode === 'way' && <WayFields job={job} part={part} view={view} />}
          <div style={{ marginTop: 10 }}>
            <Photos job={job} subject={room.id} what={room.name} />
          </div>
          <Row style={{ marginTop: 10, alignItems: 'end' }}>
            <span style={{ flex: '1 1 220px' }}>
              <TextBox part={part} path="note" label={say('Note')} />
            </span>
            <span style={{ flex: '1 1 220px' }}>
              <TextBox
                part={part}
                path="skipped"
                label={say('Not seen, because')}
                help={r.skipped ? say('goes to quote and handover until it is seen') : undefined}
              />
            </span>
            {r.skipped && <DateBox part={part} path="revisit" label={say('Seen on')} />}
          </Row>
          <Row style={{ marginTop: 8 }}>
            <Button disabled={!before || part.frozen} onClick={() => before && move(before, undefined, -0.5)}>
              {say('Earlier in the survey')}
            </Button>
            <Button disabled={!after || part.frozen} onClick={() => after && move(after, undefined, 0.5)}>
              {say('Later')}
            </Button>
            <Button
              disabled={part.frozen}
              onClick={() => remove.mutate({ part: `rooms/${room.id}`, base: job.versions[`rooms/${room.id}`] ?? 0 })}
            >
              {say('Remove the room')}
            </Button>
            <Quiet>{say('Ctrl Z brings it back.')}</Quiet>
          </Row>
          {remove.error && <Wrong>{remove.error.message}</Wrong>}
        </div>
      )}
    </Section>
  );
}

export function DateBox({ part, path, label, help }: { part: Part; path: string; label: string; help?: string }) {
  const value = get(part.value, path);
  const error = part.errors[`${part.name}.${path}`];
  return (
    <TextField
      type="date"
      label={label}
      value={textOf(value)}
      disabled={part.frozen}
      error={!!error}
      helperText={error ?? help}
      sx={{ maxWidth: 180 }}
      onChange={(e) => part.set(path, e.target.value)}
      onBlur={part.commit}
      slotProps={{ htmlInput: { 'data-path': path } }}
    />
  );
}

/** The room's line, edited as text; points that read the same keep their photos. */
function RoomLine({ job, room, line }: { job: Of<'JobView'>; room: Of<'Room'>; line: string }) {
  const [text, setText] = useState(line);
  const [wrong, setWrong] = useState('');
  const walk = useWalk(job.id);
  const reading = useReading(job.view.job?.practice ?? '', text, room.floor);
  const save = () =>
    walk.mutate(
      { text, room: room.id, replace: true, base: job.versions[`rooms/${room.id}`] ?? 0 },
      {
        onSuccess: (a) => {
          setWrong('');
          keep(queries, a);
        },
        onError: (e) =>
          setWrong(
            e instanceof Trouble && e.status === 409
              ? say('Somebody changed this room meanwhile. Your line stays here; open the room again to compare.')
              : e.message,
          ),
      },
    );
  return (
    <div>
      <TextField
        label={say('The room as shorthand')}
        value={text}
        multiline
        minRows={2}
        disabled={job.view.frozen}
        onChange={(e) => setText(e.target.value.replace(/\n/g, ' '))}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            save();
          }
          if (e.key === 'Escape') setText(line);
        }}
        slotProps={{ htmlInput: { 'data-line': room.name, spellCheck: false } }}
      />
      {text !== line && (
        <Button variant="contained" sx={{ mt: 1 }} onClick={save}>
          {say('Write the room so')}
        </Button>
      )}
      <div aria-live="polite">{text !== line && reading.data?.map((l, i) => <ReadLine key={i} line={l} />)}</div>
      {wrong && <Wrong>{wrong}</Wrong>}
    </div>
  );
}

const states = [
  { id: 'new', name: 'new' },
  { id: 'kept', name: 'stays' },
  { id: 'moved', name: 'moved' },
  { id: 'removed', name: 'goes' },
];

/** The same points as a table. */
function PointTable({ job, part }: { job: Of<'JobView'>; part: Part<Of<'Room'>> }) {
  const units = useUnits();
  const terms = useTerms().data;
  const kinds = terms?.survey.kinds ?? [];
  const switching = [{ id: '', name: '–' }, ...choices(terms?.survey.switching)];
  const bath = useBathAsked(job, part.value);
  return (
    <>
      <EditTable
        part={part}
        path="points"
        label={say('Points of {{name}}', { name: part.value.name })}
        add={say('Add a point')}
        newRow={() => freshPoint('socket-2', 'new')}
        columns={[
          { key: 'count', label: say('No.'), kind: 'number', width: 46 },
          { key: 'kind', label: say('Point'), kind: 'choice', width: 170, options: kinds.map((k) => ({ id: k.id, name: k.name })) },
          ...(bath
            ? ([
                { key: 'bathMM', label: say('From bath or tray'), scale: units.mm, kind: 'number', optional: true, width: 92, keep: true },
                { key: 'inside', label: say('Inside it'), kind: 'check', width: 52 },
                { key: 'ip', label: say('IP'), width: 58, keep: true },
              ] satisfies Column<Of<'RoomPoint'>>[])
            : []),
          { key: 'state', label: say('State'), kind: 'choice', width: 78, options: states },
          { key: 'switching', label: say('Switched'), kind: 'choice', width: 104, options: switching },
          { key: 'dimmed', label: say('Dim'), kind: 'check', width: 34 },
          { key: 'heightMM', label: say('Height'), scale: units.mm, kind: 'number', width: 66, zero: true },
          { key: 'wall', label: say('Wall'), width: 84 },
          { key: 'fedFrom', label: say('Fed from'), width: 84 },
          { key: 'box', label: say('Box'), width: 72 },
          { key: 'powerW', label: say('Power'), unit: 'W', kind: 'number', width: 66, zero: true },
          { key: 'currentA', label: say('Current'), unit: 'A', kind: 'number', width: 62, zero: true },
          { key: 'note', label: say('Note') },
        ]}
      />
      <Quiet>
        {say(
          'An empty height is the usual one of the kind; an empty box the usual box. Power or current may be left open until it is known.',
        )}
      </Quiet>
      <details style={{ marginTop: 8 }}>
        <summary style={{ cursor: 'pointer', minHeight: 32 }}>{say('Photos of single points')}</summary>
        {part.value.points.map((p) => (
          <Row key={p.id} style={{ padding: '4px 0' }}>
            <span style={{ minWidth: 180 }}>
              {p.count} × {kinds.find((k) => k.id === p.kind)?.name ?? p.typed}
            </span>
            <Photos job={job} subject={p.id} what={kinds.find((k) => k.id === p.kind)?.name ?? 'point'} small />
          </Row>
        ))}
      </details>
    </>
  );
}

/** The wall lines of a room in walking order, drawn, with the receptacles along each. */
function Walls({ job, part }: { job: Of<'JobView'>; part: Part<Of<'Room'>> }) {
  const asks = useSheetAsks('survey');
  const units = useUnits();
  const check = useCircuits(job.id).data?.report.job.find((c) => c.sheet === 'survey' && c.object === part.value.id);
  if (!asks('walls')) return null;
  return (
    <details open={part.value.walls.length > 0} style={{ marginTop: 8 }}>
      <summary style={{ cursor: 'pointer', minHeight: 32 }}>{say('Walls and counters, for the spacing of receptacles')}</summary>
      <WallDrawing walls={part.value.walls} show={(m) => units.show(m, 'm')} />
      {check && (
        <p style={{ display: 'flex', gap: 8, margin: '6px 0' }} data-spacing={check.verdict}>
          <Mark verdict={check.verdict} /> <span>{check.summary}</span>
        </p>
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
    </details>
  );
}

/** The way a cable takes to the room, measured and estimated kept apart, and the construction that decides the method. */
function WayFields({ job, part, view }: { job: Of<'JobView'>; part: Part<Of<'Room'>>; view?: Of<'RoomView'> }) {
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
        <DateBox part={part} path="closed" label={say('Walls closed on')} help={say('from then on a change means reopening')} />
      </Fields>
      <div style={{ height: 10 }} />
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
      <p style={{ margin: '6px 0' }}>
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
      </p>
      <Walls job={job} part={part} />
    </>
  );
}
