import { useCallback, useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { membersOf, useKept, useRecord } from '../../api/records';
import { Details, Quiet, Row, Wrong } from '../../parts/layout';
import { say } from '../../words/words';
import { Chip, PointRow, type PointStep } from './PointRow';

interface RoomPointsProps {
  job: Of<'JobView'>;
  room: Of<'RoomWork'>;
  stage: 'first fix' | 'second fix';
}

/** The points of a room, each with the work on it that is done: one touch for each, or for all of the room. Gloves on, one hand free. */
export function RoomPoints({ job, room, stage }: RoomPointsProps) {
  const { mutate, error } = useRecord(job.id);
  const { unanswered } = useKept(job.id);
  const [open, setOpen] = useState(false); // a folded list of a hundred points is not drawn
  const steps = (useTerms().data?.pointSteps ?? []).filter((s) => s.stage === stage);
  const held = stage === 'first fix' ? room.first : room.second;
  // What the server has not answered yet counts as said: the next touch does not wait for it.
  const waits = unanswered.flatMap((k) => {
    const r = membersOf(k.record);
    return !k.refused && k.record.kind === 'point-work' && r.room === room.room ? [r] : [];
  });
  const done = (p: Of<'PointWork'>, s: PointStep) =>
    waits.reduce(
      (is, r) => (r.steps?.includes(s) && (!r.points?.length || r.points.includes(p.point)) ? !!r.done : is),
      p.done.includes(s),
    );
  const at = room.room;
  const onSay = useCallback(
    (s: PointStep, point: string, is: boolean) =>
      mutate({ kind: 'point-work', room: at, steps: [s], points: point ? [point] : [], done: is }),
    [mutate, at],
  );
  const onCameOut = useCallback(
    (point: string, note: string) =>
      mutate({ kind: 'point-work', room: at, steps: ['tugged'], points: [point], done: false, passed: false, note }),
    [mutate, at],
  );
  const may = !job.view.frozen && job.view.may.includes('point-work');
  const closed = (s: Of<'PointTerm'>) => !may || (!!held && !s.free);
  const listed = (which: (s: Of<'PointTerm'>) => boolean) =>
    steps
      .filter(which)
      .map((s) => `${s.id},`)
      .join('');
  return (
    <div data-room-points={at} className="no-print">
      {held && <Quiet block>{held}</Quiet>}
      <Row gap="s" above="s">
        <Quiet>{say('All of this room:')}</Quiet>
        {steps.map((s) => {
          const having = room.points.filter((p) => p.steps.includes(s.id));
          const n = having.filter((p) => done(p, s.id)).length;
          const all = n === having.length;
          return !having.length ? null : (
            <Chip
              key={s.id}
              type="button"
              data-step-all={s.id}
              data-all={(!s.open && !all) || undefined}
              disabled={all || closed(s)}
              onClick={() => onSay(s.id, '', true)}
              aria-label={say('{{what}}: all of this room', { what: s.name })}
            >
              {all ? say('{{what}}: all', { what: s.name }) : say('{{what}} {{n}} of {{all}}', { what: s.name, n, all: having.length })}
            </Chip>
          );
        })}
      </Row>
      <Details onToggle={(e) => e.target === e.currentTarget && setOpen(e.currentTarget.open)}>
        <summary>{say('Point by point')}</summary>
        {open &&
          room.points.map((p) => (
            <PointRow
              key={p.point}
              job={job}
              point={p}
              steps={steps}
              done={listed((s) => done(p, s.id))}
              closed={listed(closed)}
              tugs={stage === 'second fix' && may}
              locked={!may}
              onSay={onSay}
              onCameOut={onCameOut}
            />
          ))}
      </Details>
      {error && <Wrong>{error.message}</Wrong>}
    </div>
  );
}
