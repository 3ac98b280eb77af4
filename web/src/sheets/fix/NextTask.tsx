import { styled } from '@mui/material/styles';
import { useEffect, useState } from 'react';
import type { Of } from '../../api/client';
import { Quiet } from '../../parts/layout';
import { StepClock } from '../../parts/StepClock';
import { say } from '../../words/words';
import { TaskCare, TaskRest } from './TaskLine';
import { TickButton } from './TickButton';

const Card = styled('div')({
  border: '1px solid var(--ink)',
  borderLeft: '4px solid var(--copper)',
  padding: '10px 12px',
  margin: '10px 0',
});
const Title = styled('b')({ display: 'block', fontSize: '1.2em', lineHeight: 1.3, margin: '2px 0 4px', overflowWrap: 'anywhere' });

const Acts = styled('div')({
  display: 'flex',
  flexWrap: 'wrap',
  gap: 8,
  justifyContent: 'space-between',
  '& > :last-child': { marginLeft: 'auto' },
});

// As long as a second touch of a gloved hand may follow the first, ms: it would tick the step that comes up in the same place.
const settles = 500;

interface NextTaskProps {
  job: Of<'JobView'>;
  task: Of<'Task'>;
  place: string;
  nth: number;
  /** It has come up where another was just ticked. */
  fresh: boolean;
}

/** The step that comes next, large: where it is, what it is, what to be careful of, and one button. */
export function NextTask({ job, task, place, nth, fresh }: NextTaskProps) {
  const [settled, setSettled] = useState(!fresh);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(true), settles);
    return () => clearTimeout(timer);
  }, []);
  return (
    <Card data-next data-task={task.id} data-nth={nth} data-fresh={settled ? undefined : true}>
      <Quiet>
        {task.closed ? say('Next, not open yet') : say('Next')}
        {!task.title.startsWith(place) && ` · ${place}`}
      </Quiet>
      <Title>{task.title}</Title>
      <TaskCare task={task} />
      <TaskRest job={job} task={task} />
      <Acts>
        <StepClock job={job.id} task={task} frozen={job.view.frozen} />
        <TickButton job={job} task={task} held={!settled} />
      </Acts>
    </Card>
  );
}
