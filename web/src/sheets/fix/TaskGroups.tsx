import { styled } from '@mui/material/styles';
import { useEffect, useRef, useState } from 'react';
import type { Of } from '../../api/client';
import { Quiet } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';
import { RoomPoints } from './RoomPoints';
import { TaskLine } from './TaskLine';

const Group = styled('details')({
  borderBottom: '1px solid var(--rule)',
  '& > summary': { cursor: 'pointer', minHeight: 44, display: 'flex', alignItems: 'center', gap: 8 },
  '& > summary::before': { content: '"▸"', color: 'var(--ink2)' },
  '&[open] > summary::before': { content: '"▾"' },
  '& > ol': { margin: 0, padding: '0 0 8px' },
});

interface TaskGroupsProps {
  job: Of<'JobView'>;
  tasks: Of<'Task'>[];
  /** The step that stands by itself above, if any. */
  next?: Of<'Task'>;
  placeOf: (t: Of<'Task'>) => string;
  stage: 'first fix' | 'second fix';
}

/** The steps of a sheet by room and circuit, folded: each says how much of it is done. */
export function TaskGroups({ job, tasks, next, placeOf, stage }: TaskGroupsProps) {
  const [open, setOpen] = useState<string[]>([]);
  const unfolded = (place: string, is: boolean) => setOpen((was) => (is ? [...was, place] : was.filter((p) => p !== place)));
  const root = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const unfold = () => root.current?.querySelectorAll('details').forEach((d) => (d.open = true)); // paper has nothing to touch
    window.addEventListener('beforeprint', unfold);
    return () => window.removeEventListener('beforeprint', unfold);
  }, []);
  const groups = new Map<string, { task: Of<'Task'>; nth: number }[]>();
  tasks.forEach((task, nth) => {
    const place = placeOf(task);
    groups.set(place, [...(groups.get(place) ?? []), { task, nth }]);
  });
  return (
    <div ref={root}>
      {[...groups].map(([place, steps]) => {
        const done = steps.filter((s) => s.task.done).length;
        const room = job.view.rooms.find((r) => steps.some((s) => s.task.room === r.room));
        return (
          <Group
            key={place}
            data-group={place}
            data-done={done}
            onToggle={(e) => e.target === e.currentTarget && unfolded(place, e.currentTarget.open)}
          >
            <summary>
              <Mark verdict={done === steps.length ? 'pass' : 'unknown'} size={16} label={done === steps.length ? 'done' : say('to do')} />
              <b>{place}</b> <Quiet>{say('{{done}} of {{all}} done', { done, all: steps.length })}</Quiet>
            </summary>
            {room && open.includes(place) && <RoomPoints job={job} room={room} stage={stage} />}
            <ol>{steps.map((s) => (s.task === next ? null : <TaskLine key={s.task.id} job={job} task={s.task} nth={s.nth} />))}</ol>
          </Group>
        );
      })}
    </div>
  );
}
