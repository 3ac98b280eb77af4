import { Button } from '@mui/material';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { keptOf, useKept, useRecord } from '../api/records';
import { Quiet, Wrong } from '../parts/layout';
import { say } from '../words/words';
import { sheetOf } from './sheetOf';

interface DayStepProps {
  job: Of<'TodayJob'>;
  task: Of<'Task'>;
  large?: boolean;
}

/** Says that a step is done: one touch. What asks for more than that leads to its sheet. */
export function DayStep({ job, task, large = false }: DayStepProps) {
  const record = useRecord(job.id);
  const { kept } = useKept(job.id);
  const waits = !!keptOf(kept, 'tick', task.id);
  if (waits) return <Quiet data-kept-tick>{say('waits for a connection')}</Quiet>;
  if (task.closed || task.photo || task.others || job.frozen)
    return large ? <Link to={`/jobs/${job.id}/${sheetOf(task.stage)}`}>{say('Open its sheet')}</Link> : null;
  return (
    <div>
      <Button
        data-day-tick={task.id}
        variant={large ? 'contained' : 'outlined'}
        disabled={record.isPending}
        sx={{ minHeight: 44, minWidth: large ? 160 : 74 }}
        onClick={() => record.mutate({ kind: 'tick', subject: task.id, circuit: task.circuit, done: true })}
      >
        {say('Done')}
      </Button>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </div>
  );
}
