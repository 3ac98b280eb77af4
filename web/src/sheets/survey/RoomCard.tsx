import { msg, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Trouble, type Of } from '../../api/client';
import { keep, queries, useRemovePart, useWalk } from '../../api/job';
import { usePart } from '../../api/part';
import { TextBox } from '../../parts/fields';
import { styled } from '@mui/material/styles';
import type { Working } from '../../parts/CheckList';
import { Aside, Bad, Block, Grow, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Photos } from '../../parts/Photos';
import { SaveLine } from '../../parts/SaveLine';
import { ReadLine, useReading } from './ShorthandEntry';
import { BathFields } from './BathFields';
import { TapKeys } from './TapKeys';
import { PointTable, WayFields } from './RoomTables';
import { DateBox } from '../../parts/DateBox';

const Open = styled('div')({ padding: '8px 6px 14px 10px' });

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
    <Section data-room={room.name} below="none" ruled>
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
          {!!view?.unread && <Bad> {say('· {{unread}} not understood', { unread: view.unread })}</Bad>}
        </span>
        <b className="total">{total}</b>
      </Head>
      {open && (
        <Open>
          <Row below="s">
            <Row role="group" aria-label={say('How this room is entered')} gap="xs">
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
            <Aside>
              <SaveLine part={part} />
            </Aside>
          </Row>
          {mode === 'keys' && <TapKeys part={part} />}
          {mode === 'line' && view && <RoomLine key={view.line} job={job} room={room} line={view.line} />}
          {mode === 'table' && <PointTable job={job} part={part} />}
          <BathFields job={job} part={part} asked={mode === 'way'} working={working} />
          {mode === 'way' && <WayFields job={job} part={part} view={view} />}
          <Block above="m">
            <Photos job={job} subject={room.id} what={room.name} />
          </Block>
          <Row above="m" align="end">
            <Grow from={220}>
              <TextBox part={part} path="note" label={say('Note')} />
            </Grow>
            <Grow from={220}>
              <TextBox
                part={part}
                path="skipped"
                label={say('Not seen, because')}
                help={r.skipped ? say('goes to quote and handover until it is seen') : undefined}
              />
            </Grow>
            {r.skipped && <DateBox part={part} path="revisit" label={say('Seen on')} />}
          </Row>
          <Row above="s">
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
        </Open>
      )}
    </Section>
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
