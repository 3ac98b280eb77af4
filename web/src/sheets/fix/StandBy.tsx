import { TextField } from '@mui/material';
import type { Of } from '../../api/client';
import { useWeek } from '../../api/days';
import { nobody } from '../../api/nobody';
import { usePart } from '../../api/part';
import { Fixed, Quiet, Wrong } from '../../parts/layout';
import { say } from '../../words/words';

interface StandByProps {
  job: Of<'JobView'>;
  plan: Of<'Plan'>;
  task: Of<'Task'>;
}

/** Who stands by on the ground while somebody works at height: said where the work is, or beforehand on the Plan sheet. */
export function StandBy({ job, plan, task: t }: StandByProps) {
  const part = usePart(job, 'plan', plan);
  const people = useWeek('').data?.people ?? [];
  const wrong = part.errors[`plan.tasks[${t.id}].standBy`] ?? (part.status === 'refused' ? part.summary : '');
  return (
    <div data-stand-by={t.id}>
      <Quiet block>{say('Work at height: one works, one stands by on the ground and can call for help.')}</Quiet>
      <Fixed least={220}>
        <TextField
          select
          label={say('Stands by')}
          value={t.standBy}
          disabled={part.frozen}
          onChange={(e) =>
            part.save('tasks', { ...part.value.tasks, [t.id]: { ...(part.value.tasks[t.id] ?? nobody), standBy: e.target.value } })
          }
          slotProps={{ select: { native: true }, htmlInput: { name: `stand-by-${t.id}` }, inputLabel: { shrink: true } }}
        >
          <option value="">{say('choose')}</option>
          {people.map((p) => (
            <option key={p.name} value={p.name}>
              {p.name}
            </option>
          ))}
        </TextField>
      </Fixed>
      {wrong && <Wrong>{wrong}</Wrong>}
    </div>
  );
}
