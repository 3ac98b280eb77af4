import { TextField } from '@mui/material';
import type { Of } from '../../api/client';
import { nobody } from '../../api/nobody';
import { usePart } from '../../api/part';
import { useFrame } from '../../frame/Shell';
import { EditTable } from '../../parts/EditTable';
import { figure } from '../../parts/figure';
import { Fixed, Heading, NotYet, Quiet, Row, Section } from '../../parts/layout';
import { mapRows } from '../../parts/mapRows';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead } from '../../parts/SheetHead';
import { say } from '../../words/words';
import type { SheetProps } from '../props';
import { PowerDays } from '../../parts/PowerDays';
import { ComesLater } from './ComesLater';
import { JobCalendar } from './JobCalendar';
import { PaceLine } from './PaceLine';
import { Trades } from './Trades';

type Planned = Of<'Task'> & Of<'TaskEdit'>;

const stageOf = (t: Planned) => say(t.stage);
const idOf = (t: Planned) => t.id;

/** How long a task takes beside the longest. */
function Length({ task: t, longest }: { task: Planned; longest: number }) {
  return (
    <svg width="100" height="12" aria-hidden="true">
      <rect
        width={(t.hours / longest) * 100}
        height="12"
        fill={t.done ? 'var(--verdigris)' : 'var(--copper)'}
        opacity={t.crew > 1 ? 1 : 0.7}
      />
    </svg>
  );
}

/** The tasks in the order they are worked, with crew and hours. For the office. */
export function PlanSheet({ job, j }: SheetProps) {
  const part = usePart(job, 'plan', j.plan);
  const tasks = job.view.tasks;
  const titles = Object.fromEntries(tasks.map((t) => [t.id, t.title]));
  const personHours = tasks.reduce((sum, t) => sum + t.hours * t.crew, 0);
  const { me } = useFrame();
  const skills = Object.fromEntries(me.authorities.map((a) => [a.id, a.name]));
  const longest = Math.max(...tasks.map((t) => t.hours), 1);
  const rows = tasks.map((t): Planned => {
    const { crew, hours, who, day, atHeight, standBy } = part.value.tasks[t.id] ?? nobody;
    return { ...t, crew: crew || t.crew, hours: hours || t.hours, who, day, atHeight: atHeight ?? '', standBy: standBy ?? '' };
  });
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
      <Trades job={job} j={j} part={part} />
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
        <PaceLine pace={job.view.pace} />
        <EditTable
          part={mapRows(part, 'tasks', nobody, rows, idOf)}
          path="rows"
          label="Tasks"
          nameOf={idOf}
          group={stageOf}
          columns={[
            {
              label: say('Done'),
              bare: true,
              width: 20,
              show: (t) => <Mark verdict={t.done ? 'pass' : 'unknown'} label={t.done ? 'done' : say('to do')} />,
            },
            {
              label: say('Task'),
              lead: true,
              show: (t) => (
                <>
                  {t.title}
                  {t.isolation && <Quiet> {say('· needs an isolation')}</Quiet>}
                  {t.height && <Quiet> {say('· work at height')}</Quiet>}
                  {t.skills.length > 0 && <Quiet> · {t.skills.map((s) => skills[s] ?? s).join(', ')}</Quiet>}
                  {t.after.length > 0 && (
                    <Quiet block>{say('after {{steps}}', { steps: t.after.map((a) => titles[a] ?? a).join('; ') })}</Quiet>
                  )}
                  {t.worked > 0 && (
                    <Quiet block>
                      {t.over && <Mark verdict="caution" size={13} label={say('over by more than a quarter')} />}{' '}
                      {say('{{worked}} of {{planned}} worked', { worked: figure(t.worked), planned: figure(t.hours * t.crew, 'h') })}
                    </Quiet>
                  )}
                </>
              ),
            },
            { key: 'crew', label: 'Crew', kind: 'number', zero: true, width: 70 },
            { key: 'hours', label: 'Hours', kind: 'number', zero: true, width: 80 },
            { label: say('Length'), bare: true, wide: true, width: 110, show: (t) => <Length task={t} longest={longest} /> },
            { key: 'who', label: 'Who', width: 150 },
            { key: 'day', label: say('Day'), kind: 'date', width: 130 },
            {
              key: 'atHeight',
              label: say('At height'),
              kind: 'choice',
              width: 100,
              options: [
                { id: '', name: say('as found') },
                { id: 'yes', name: say('yes') },
                { id: 'no', name: say('no') },
              ],
            },
            ...(rows.some((t) => t.height) ? [{ key: 'standBy' as const, label: say('Stands by'), width: 120 }] : []),
          ]}
        />
      </Section>
      {job.view.power.length > 0 && (
        <Section>
          <Heading>{say('On and off, day by day')}</Heading>
          <Quiet block>{say('By the steps that are planned with a day. It is a plan and no proof.')}</Quiet>
          <PowerDays days={job.view.power} />
        </Section>
      )}
      <JobCalendar job={job.id} />
      <ComesLater job={job} j={j} part={part} />
      <NotYet>{say('a proposal of days. The day of the outage stands hour by hour on the Supply sheet.')}</NotYet>
    </>
  );
}
