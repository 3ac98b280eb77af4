import { styled } from '@mui/material/styles';
import type { Of } from '../../api/client';
import { Caution, P, Quiet } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { SheetLink } from '../../parts/SheetLink';
import { moment, say } from '../../words/words';
import { ProveHere } from './ProveHere';
import { StandBy } from './StandBy';
import { TickButton } from './TickButton';

const Line = styled('li')({
  display: 'grid',
  gridTemplateColumns: '22px 1fr auto',
  gap: 10,
  padding: '10px 0',
  borderBottom: '1px solid var(--rule)',
  alignItems: 'start',
  listStyle: 'none',
});
const Named = styled('b')({ fontWeight: 600 });

interface TaskLineProps {
  job: Of<'JobView'>;
  task: Of<'Task'>;
  /** Its number among the steps of the sheet. */
  nth: number;
}

/** One step among others: whether it is done, by whom, or why it is closed. What to be careful of stands with it once it is its turn. */
export function TaskLine({ job, task: t, nth }: TaskLineProps) {
  return (
    <Line data-task={t.id} data-nth={nth}>
      <Mark
        verdict={t.done ? 'pass' : t.closed ? 'unknown' : 'caution'}
        size={18}
        label={t.done ? 'done' : t.closed ? 'closed' : say('to do')}
      />
      <span>
        <Named>{t.title}</Named>
        {t.done && t.doneAt && (
          <Quiet block>
            {t.doneBy}, {moment(t.doneAt)}
          </Quiet>
        )}
        {!t.done && !t.closed && <TaskCare task={t} />}
        <TaskRest job={job} task={t} />
      </span>
      <TickButton job={job} task={t} />
    </Line>
  );
}

/** How the conductors have to stand for a step, where it meets any. */
const needs = (): Record<string, string> => ({
  dead: say('Done dead, proved where you work.'),
  live: say('Live work: only who is authorised, covers and probes as said.'),
  located: say('Enters a wall, a ceiling or the ground: what lies there is found and marked first.'),
});

/** What to be careful of in a step. */
export function TaskCare({ task: t }: { task: Of<'Task'> }) {
  return (
    <>
      {needs()[t.needs] && <Quiet block>{needs()[t.needs]}</Quiet>}
      {t.caution && <Caution>{t.caution}</Caution>}
      {t.staysLive && (
        <P around="xs" strong>
          <span aria-hidden="true">⚡ </span>
          {t.staysLive}
        </P>
      )}
    </>
  );
}

/** What was written with a step, its pictures, why it is closed, and where it is proved dead. */
export function TaskRest({ job, task: t }: { job: Of<'JobView'>; task: Of<'Task'> }) {
  const place = job.view.tests.places.find((p) => p.id === t.prove);
  return (
    <>
      {t.done && t.note && <Quiet block>{t.note}</Quiet>}
      {t.again && <Quiet block>{t.again}</Quiet>}
      {t.photo && <Photos job={job} subject={t.id} what={t.title} small />}
      {!t.done && t.closed && (
        <Quiet block>
          {say('Closed. {{closed}}', { closed: t.closed })} {t.closedAt && <SheetLink job={job.id} at={t.closedAt} />}
        </Quiet>
      )}
      {!t.done && t.height && !t.others && job.view.job && <StandBy job={job} plan={job.view.job.plan} task={t} />}
      {!t.done && place && <ProveHere job={job} place={place} />}
    </>
  );
}
