import type { Of } from '../../api/client';
import { Bare, Item, Quiet } from '../../parts/layout';
import { say } from '../../words/words';
import { label } from '../circuits/run/run';

/** Which circuit each point of a room stands on, and by which tags; what stands on none is said. */
export function OnCircuits({ job, room, name }: { job: Of<'JobView'>; room: Of<'Room'>; name: (p: Of<'RoomPoint'>) => string }) {
  const circuits = job.view.job?.circuits ?? [];
  const on = (p: Of<'RoomPoint'>) =>
    circuits
      .map((c) => ({ c, boxes: c.serves.boxes.filter((b) => b.room === room.id && b.point === p.id) }))
      .filter((x) => x.boxes.length > 0);
  const points = room.points.map((p) => ({ p, placed: on(p) })).filter((x) => x.placed.length > 0);
  if (points.length === 0) return null;
  return (
    <Bare aria-label={say('Circuits of the points')}>
      {points.map(({ p, placed }) => {
        const left = p.count - placed.reduce((n, x) => n + x.boxes.length, 0);
        return (
          <Item key={p.id}>
            {name(p)}: {placed.map((x) => `${x.c.name} (${x.boxes.map((b) => label(b) || b.name).join(', ')})`).join('; ')}
            {left > 0 && <Quiet> {say('{{left}} on no circuit yet', { left })}</Quiet>}
          </Item>
        );
      })}
    </Bare>
  );
}
