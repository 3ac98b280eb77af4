import { useState } from 'react';
import { Link } from 'react-router';
import { keptOf, useKept } from '../../api/records';
import type { Of } from '../../api/client';
import { NotYet, P } from '../../parts/layout';
import { SheetHead } from '../../parts/SheetHead';
import { SiteHazards } from '../../parts/SiteHazards';
import { say } from '../../words/words';
import type { SheetProps } from '../props';
import { DayEnd } from './DayEnd';
import { IsolationPanel } from './IsolationPanel';
import { LooseEnds } from './LooseEnds';
import { NextTask } from './NextTask';
import { TaskGroups } from './TaskGroups';

export const FirstFix = (p: SheetProps) => <FixSheet {...p} stage="first fix" />;
export const SecondFix = (p: SheetProps) => <FixSheet {...p} stage="second fix" />;

/** First or second fix: the step that comes next, large, and the others folded by room and circuit. On a phone, on site. */
export function FixSheet({ job, j, stage }: SheetProps & { stage: 'first fix' | 'second fix' }) {
  const { kept } = useKept(job.id);
  const tasks = job.view.tasks.filter((t) => t.stage === stage);
  const done = tasks.filter((t) => t.done).length;
  const name = stage === 'first fix' ? say('First fix') : say('Second fix');
  const placeOf = (t: Of<'Task'>) =>
    j.rooms.find((r) => r.id === t.room)?.name ?? j.circuits.find((c) => c.id === t.circuit)?.name ?? say('The job');
  // A tick that waits for a connection is made; one's own isolation that waits opens what it is for.
  const ticked = (t: Of<'Task'>) => !!keptOf(kept, 'tick', t.id);
  const isolated = kept.some((k) => !k.refused && k.record.kind === 'isolation');
  const left = tasks.filter((t) => !t.done && !ticked(t));
  const next = left.find((t) => !t.closed || (t.isolation && isolated)) ?? left.at(0);
  const [shown] = useState(next?.id); // when the sheet was opened
  return (
    <>
      <SheetHead
        title={name}
        job={job.id}
        summary={
          tasks.length ? say('{{done}} of {{tasks}} done.', { done, tasks: tasks.length }) : say('No tasks: there is no circuit yet.')
        }
        tables={[['tasks', say('Tasks')]]}
      />
      <SiteHazards j={j} />
      {next && (
        <NextTask
          key={next.id}
          job={job}
          task={next}
          place={placeOf(next)}
          nth={tasks.indexOf(next)}
          fresh={shown !== undefined && shown !== next.id}
        />
      )}
      <P above="none" className="no-print">
        <Link to={`/jobs/${job.id}/materials?leaf=van`}>{say('What goes into the van')}</Link>
      </P>
      {tasks.some((t) => t.isolation) && <IsolationPanel job={job} />}
      <TaskGroups job={job} tasks={tasks} next={next} placeOf={placeOf} stage={stage} />
      <LooseEnds job={job} />
      <DayEnd job={job} />
      <NotYet>{stage === 'first fix' ? say('a cut list.') : say('the torque of every terminal by its manufacturer.')}</NotYet>
    </>
  );
}
