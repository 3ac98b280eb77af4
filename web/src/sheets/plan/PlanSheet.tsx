import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { TextField } from '@mui/material';
import { memo, useCallback, useRef } from 'react';
import type { Of } from '../../api/client';
import { usePart } from '../../api/part';
import { BareField, NumberInput } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { useGrowing } from '../../parts/growing';
import { Fixed, Heading, NotYet, Quiet, Row, Scroll, Section, SheetTable, Th } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead } from '../../parts/SheetHead';
import type { SheetProps } from '../props';

const Task = styled('th')({ width: '34%' });
const Stage = styled('th')({ paddingTop: 10, color: 'var(--ink)' });

const nobody = { crew: 0, hours: 0, who: '' };

interface TaskRowProps {
  task: Of<'Task'>;
  after: string;
  who: string;
  longest: number;
  frozen: boolean;
  crewWrong?: string;
  hoursWrong?: string;
  change: (id: string, next: object) => void;
  commit: () => void;
}

/** One task with its crew, hours and people. */
const TaskRow = memo(function TaskRow({ task: t, after, who, longest, frozen, crewWrong, hoursWrong, change, commit }: TaskRowProps) {
  const before = useRef('');
  return (
    <tr>
      <td>
        <Mark verdict={t.done ? 'pass' : 'unknown'} label={t.done ? 'done' : say('to do')} />
      </td>
      <td>
        {t.title}
        {t.isolation && <Quiet> {say('· needs an isolation')}</Quiet>}
      </td>
      <td>
        <Quiet>{after || '–'}</Quiet>
      </td>
      <td>
        <NumberInput
          bare
          label={say('Crew')}
          value={t.crew}
          onValue={(v) => change(t.id, { crew: v ?? 0 })}
          onDone={commit}
          disabled={frozen}
          path={`${t.id}/crew`}
          error={crewWrong}
        />
      </td>
      <td>
        <NumberInput
          bare
          label={say('Hours')}
          value={t.hours}
          onValue={(v) => change(t.id, { hours: v ?? 0 })}
          onDone={commit}
          disabled={frozen}
          path={`${t.id}/hours`}
          error={hoursWrong}
        />
      </td>
      <td>
        <svg width="100" height="12" aria-hidden="true">
          <rect
            width={(t.hours / longest) * 100}
            height="12"
            fill={t.done ? 'var(--verdigris)' : 'var(--copper)'}
            opacity={t.crew > 1 ? 1 : 0.7}
          />
        </svg>
      </td>
      <td>
        <BareField
          value={who}
          disabled={frozen}
          onChange={(e) => change(t.id, { who: e.target.value })}
          onFocus={() => (before.current = who)}
          onBlur={commit}
          onKeyDown={(e) => {
            if (e.key === 'Enter') commit();
            if (e.key === 'Escape') change(t.id, { who: before.current });
          }}
          name={say('Who')}
          path="who"
        />
      </td>
    </tr>
  );
});

/** The tasks in the order they are worked, with crew and hours. For the office. */
export function PlanSheet({ job, j }: SheetProps) {
  const part = usePart(job, 'plan', j.plan);
  const tasks = job.view.tasks;
  const titles = Object.fromEntries(tasks.map((t) => [t.id, t.title]));
  const personHours = tasks.reduce((sum, t) => sum + t.hours * t.crew, 0);
  const longest = Math.max(...tasks.map((t) => t.hours), 1);
  const edit = (id: string) => part.value.tasks[id] ?? nobody;
  // The rows keep their callbacks, so that a key typed in one draws that one anew and no other.
  const now = useRef(part);
  now.current = part;
  const change = useCallback((id: string, next: object) => {
    const { value, set } = now.current;
    set('tasks', { ...value.tasks, [id]: { ...(value.tasks[id] ?? nobody), ...next } });
  }, []);
  const drawn = useGrowing(tasks.length);
  const commit = useCallback(() => now.current.commit(), []);
  let stage = '';
  return (
    <>
      <SheetHead
        title={say('Plan')}
        job={job.id}
        summary={
          tasks.length
            ? say('{{tasks}} tasks, {{personHours}}.', { tasks: tasks.length, personHours: figure(personHours, 'person-hours') })
            : say('No tasks: there is no circuit yet.')
        }
        tables={[['tasks', say('Tasks')]]}
      />
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('Tasks, made from the model')}</Heading>
        <Row below="m">
          <Fixed least={180}>
            <TextField
              type="date"
              label={say('Work starts')}
              value={part.value.startDate}
              disabled={part.frozen}
              onChange={(e) => part.set('startDate', e.target.value)}
              onBlur={part.commit}
              error={!!part.errors['plan.startDate']}
              helperText={part.errors['plan.startDate']}
              slotProps={{ htmlInput: { 'data-path': 'startDate' } }}
            />
          </Fixed>
          <Quiet>{say('Hours are norms of the company; what you write here replaces them for this job.')}</Quiet>
        </Row>
        <Scroll>
          <SheetTable aria-label={say('Tasks')}>
            <thead>
              <tr>
                <Th width={20} aria-label={say('Done')} />
                <Task scope="col">{say('Task')}</Task>
                <th scope="col">{say('After')}</th>
                <Th scope="col" width={70}>
                  {say('Crew')}
                </Th>
                <Th scope="col" width={80}>
                  {say('Hours')}
                </Th>
                <Th scope="col" width={110} aria-label={say('Length')} />
                <Th scope="col" width={150}>
                  {say('Who')}
                </Th>
              </tr>
            </thead>
            <tbody>
              {tasks.slice(0, drawn).map((t) => {
                const first = t.stage !== stage;
                stage = t.stage;
                return [
                  first && (
                    <tr key={`${t.stage}-head`}>
                      <Stage scope="rowgroup" colSpan={7}>
                        {say(t.stage)}
                      </Stage>
                    </tr>
                  ),
                  <TaskRow
                    key={t.id}
                    task={t}
                    after={t.after.map((a) => titles[a]).join('; ')}
                    who={edit(t.id).who}
                    longest={longest}
                    frozen={part.frozen}
                    crewWrong={part.errors[`plan.tasks[${t.id}].crew`]}
                    hoursWrong={part.errors[`plan.tasks[${t.id}].hours`]}
                    change={change}
                    commit={commit}
                  />,
                ];
              })}
            </tbody>
          </SheetTable>
        </Scroll>
      </Section>
      <NotYet>{say('crew days on a calendar, other trades. The day of the outage stands hour by hour on the Supply sheet.')}</NotYet>
    </>
  );
}
