import { Button } from '@mui/material';
import { useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { keep, putParts, queries } from '../../api/job';
import { useOutbox } from '../../api/outbox';
import { usePart } from '../../api/part';
import { Grow, Heading, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { say } from '../../words/words';

type Asking = Of<'Question'>;

/** What rooms of their kind usually have and these lack: asked of alike rooms at once, never added by itself. */
export function Questions({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const questions = job.view.walk.questions;
  const [all, setAll] = useState(false);
  if (questions.length === 0) return null;
  const groups = new Map<string, Asking[]>();
  for (const q of questions) {
    const key = q.room ? q.group : q.id;
    groups.set(key, [...(groups.get(key) ?? []), q]);
  }
  const list = [...groups.values()];
  const shown = all ? list : list.slice(0, 6);
  return (
    <Section>
      <Heading aside={say('{{questions}} open', { questions: list.length })}>{say('Questions from the survey')}</Heading>
      {shown.map((g) =>
        g.length > 1 ? (
          <AlikeQuestion key={g[0].group} job={job} j={j} alike={g} />
        ) : (
          <Question key={`${g[0].room}/${g[0].id}`} job={job} q={g[0]} room={j.rooms.find((r) => r.id === g[0].room)} />
        ),
      )}
      {list.length > 6 && (
        <Button onClick={() => setAll(!all)}>{all ? say('Fewer') : say('All {{questions}} questions', { questions: list.length })}</Button>
      )}
    </Section>
  );
}

/** One question of several rooms, with one answer for all of them; a room that differs is answered on its own. */
function AlikeQuestion({ job, j, alike }: { job: Of<'JobView'>; j: Of<'Job'>; alike: Asking[] }) {
  const outbox = useOutbox(job.id);
  const [apart, setApart] = useState(false);
  const [wrong, setWrong] = useState('');
  const q = alike[0];
  const rooms = alike.flatMap((a) => j.rooms.find((r) => r.id === a.room) ?? []);
  const unsaid = job.view.walk.controls.filter((c) => c.assumed);
  const change = async (title: string, of: (r: Of<'Room'>) => Of<'Room'>) => {
    try {
      keep(queries, await putParts(job, title, Object.fromEntries(rooms.map((r) => [`rooms/${r.id}`, of(r)])), newKey()));
      setWrong('');
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  const no = () =>
    change(say('No for {{count}} rooms', { count: rooms.length }), (r) => ({ ...r, answered: { ...r.answered, [q.id]: 'no' } }));
  const switched = (how: string) =>
    change(say('How the lights of {{count}} rooms are switched', { count: rooms.length }), (r) => ({
      ...r,
      points: r.points.map((p) => (unsaid.some((c) => c.room === r.id && c.point === p.id) ? { ...p, switching: how } : p)),
    }));
  return (
    <>
      <Row data-question={q.id} data-alike={rooms.length} ruled pad="s">
        <Grow from={240}>
          <b>{rooms.map((r) => r.name).join(', ')}</b>: {q.alike} <Quiet>· {q.why}</Quiet>
        </Grow>
        {q.add && (
          <Button disabled={job.view.frozen} onClick={() => rooms.forEach((r) => outbox.send(q.add, r.id))}>
            {say('Add {{add}} to each', { add: q.add })}
          </Button>
        )}
        {q.id === 'switching' && (
          <>
            <Button disabled={job.view.frozen} onClick={() => void switched('one-way')}>
              {say('From one place')}
            </Button>
            <Button disabled={job.view.frozen} onClick={() => void switched('two-way')}>
              {say('From two places')}
            </Button>
          </>
        )}
        <Button disabled={job.view.frozen} onClick={() => void no()}>
          {q.add ? say('No for all') : say('Not asked again')}
        </Button>
        <Button aria-expanded={apart} onClick={() => setApart(!apart)}>
          {say('Room by room')}
        </Button>
      </Row>
      {wrong && <Wrong>{wrong}</Wrong>}
      {apart && alike.map((a) => <Question key={a.room} job={job} q={a} room={j.rooms.find((r) => r.id === a.room)} />)}
    </>
  );
}

function Question({ job, q, room }: { job: Of<'JobView'>; q: Of<'Question'>; room?: Of<'Room'> }) {
  return room ? <RoomQuestion job={job} q={q} room={room} /> : <HouseQuestion job={job} q={q} />;
}

function RoomQuestion({ job, q, room }: { job: Of<'JobView'>; q: Of<'Question'>; room: Of<'Room'> }) {
  const part = usePart(job, `rooms/${room.id}`, room);
  const outbox = useOutbox(job.id);
  return (
    <Asked
      q={q}
      frozen={job.view.frozen}
      onAdd={() => outbox.send(q.add, room.id)}
      onNo={() => part.save('answered', { ...part.value.answered, [q.id]: 'no' })}
    />
  );
}

function HouseQuestion({ job, q }: { job: Of<'JobView'>; q: Of<'Question'> }) {
  const found = job.view.job?.found as Of<'Found'>;
  const part = usePart(job, 'found', found);
  const outbox = useOutbox(job.id);
  return (
    <Asked
      q={q}
      frozen={job.view.frozen}
      onAdd={() => outbox.send(q.add)}
      onNo={() => part.save('answered', { ...part.value.answered, [q.id]: 'no' })}
    />
  );
}

function Asked({ q, frozen, onAdd, onNo }: { q: Of<'Question'>; frozen: boolean; onAdd: () => void; onNo: () => void }) {
  return (
    <Row data-question={q.id} ruled pad="s">
      <Grow from={240}>
        {q.asks} <Quiet>· {q.why}</Quiet>
      </Grow>
      {q.add && (
        <Button disabled={frozen} onClick={onAdd}>
          {say('Add {{add}}', { add: q.add.replace(/:$/, '') })}
        </Button>
      )}
      <Button disabled={frozen} onClick={onNo}>
        {q.add ? say('No') : say('Not asked again')}
      </Button>
    </Row>
  );
}
