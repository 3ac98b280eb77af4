import { Button } from '@mui/material';
import type { Of } from '../api/client';
import { keptOf, membersOf, useKept, useRecord } from '../api/records';
import { useFrame } from '../frame/Shell';
import { moment, say } from '../words/words';
import { AddHours } from './AddHours';
import { figure } from './figure';
import { Quiet, Row, Wrong } from './layout';

interface StepClockProps {
  /** The job, by id. */
  job: string;
  task: Of<'Task'>;
  frozen: boolean;
}

/** Starts and stops the hours of whoever is signed in on a step. One touch; the tick of the step stops them too. */
export function StepClock({ job, task: t, frozen }: StepClockProps) {
  const { me } = useFrame();
  const record = useRecord(job);
  const { kept } = useKept(job);
  if (t.others || t.done || frozen || me.role === 'office') return null;
  const waiting = keptOf(kept, 'clock', t.id);
  const lost = t.clocks.find((c) => c.lost && c.person === me.id);
  const mine = t.clocks.find((c) => !c.lost && c.person === me.id);
  const runs = waiting ? membersOf(waiting.record).done !== true : !!mine;
  const others = t.clocks.filter((c) => !c.lost && c.person !== me.id);
  return (
    <div data-clock={t.id} data-runs={runs || undefined}>
      <Row gap="s">
        <Button
          variant="outlined"
          disabled={record.isPending}
          sx={{ minHeight: 44 }}
          onClick={() => record.mutate({ kind: 'clock', subject: t.id, done: runs })}
        >
          {runs ? say('Stop the hours') : say('Start the hours')}
        </Button>
        <Quiet>
          {[
            runs && mine ? say('yours since {{when}}', { when: moment(mine.since) }) : '',
            ...others.map((c) => say('{{who}} since {{when}}', { who: c.by, when: moment(c.since) })),
            t.worked > 0
              ? say('{{worked}} of {{planned}} so far', { worked: figure(t.worked), planned: figure(t.hours * t.crew, 'h') })
              : '',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Quiet>
      </Row>
      {lost && (
        <Row gap="s">
          <Quiet>{say('Started {{when}} and never stopped. How many hours were it?', { when: moment(lost.since) })}</Quiet>
          <AddHours
            task={t.id}
            disabled={record.isPending}
            onAdd={(value) => record.mutate({ kind: 'worked', subject: t.id, value, note: '' })}
          />
        </Row>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </div>
  );
}
