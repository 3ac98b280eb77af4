import { moment, say } from '../../words/words';
import { styled } from '@mui/material/styles';
import { Link } from 'react-router';

import { Caution, NotYet, P, Quiet } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { SheetHead } from '../../parts/SheetHead';
import { SiteHazards } from '../../parts/SiteHazards';
import type { SheetProps } from '../props';
import { IsolationPanel } from './IsolationPanel';
import { LooseEnds } from './LooseEnds';
import { ProveHere } from './ProveHere';
import { SheetLink } from '../../parts/SheetLink';
import { TickButton } from './TickButton';

const Steps = styled('ol')({ listStyle: 'none', margin: '0 0 18px', padding: 0 });
const Named = styled('b')({ fontWeight: 600 });

const TaskLine = styled('li')({
  display: 'grid',
  gridTemplateColumns: '22px 1fr auto',
  gap: 10,
  padding: '10px 0',
  borderBottom: '1px solid var(--rule)',
  alignItems: 'start',
});

export const FirstFix = (p: SheetProps) => <FixSheet {...p} stage="first fix" />;
export const SecondFix = (p: SheetProps) => <FixSheet {...p} stage="second fix" />;

/** How the conductors have to stand for a step, where it meets any. */
const needs = (): Record<string, string> => ({
  dead: say('Done dead, proved where you work.'),
  live: say('Live work: only who is authorised, covers and probes as said.'),
  located: say('Enters a wall, a ceiling or the ground: what lies there is found and marked first.'),
});

/** First or second fix: one task under the other, ticked where the work is done. On a phone, on site. */
export function FixSheet({ job, j, stage }: SheetProps & { stage: 'first fix' | 'second fix' }) {
  const tasks = job.view.tasks.filter((t) => t.stage === stage);
  const places = new Map(job.view.tests.places.map((p) => [p.id, p]));
  const done = tasks.filter((t) => t.done).length;
  const name = stage === 'first fix' ? say('First fix') : say('Second fix');
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
      <P above="none" className="no-print">
        <Link to={`/jobs/${job.id}/materials?leaf=van`}>{say('What goes into the van')}</Link>
      </P>
      {tasks.some((t) => t.isolation) && <IsolationPanel job={job} />}
      <Steps>
        {tasks.map((t) => (
          <TaskLine key={t.id} data-task={t.id}>
            <Mark
              verdict={t.done ? 'pass' : t.closed ? 'unknown' : 'caution'}
              size={18}
              label={t.done ? 'done' : t.closed ? 'closed' : say('to do')}
            />
            <span>
              <Named>{t.title}</Named>
              {!t.done && needs()[t.needs] && <Quiet block>{needs()[t.needs]}</Quiet>}
              {t.done && t.doneAt && (
                <>
                  <br />
                  <Quiet>
                    {t.doneBy}, {moment(t.doneAt)}
                  </Quiet>
                </>
              )}
              {!t.done && t.caution && <Caution>{t.caution}</Caution>}
              {!t.done && t.staysLive && (
                <P around="xs" strong>
                  <span aria-hidden="true">⚡ </span>
                  {t.staysLive}
                </P>
              )}
              {t.done && t.note && <Quiet block>{t.note}</Quiet>}
              {t.again && <Quiet block>{t.again}</Quiet>}
              {t.photo && <Photos job={job} subject={t.id} what={t.title} small />}
              {!t.done && t.closed && (
                <Quiet block>
                  {say('Closed. {{closed}}', { closed: t.closed })} {t.closedAt && <SheetLink job={job.id} at={t.closedAt} />}
                </Quiet>
              )}
              {!t.done && places.has(t.prove) && <ProveHere job={job} place={places.get(t.prove)!} />}
            </span>
            <TickButton job={job} task={t} />
          </TaskLine>
        ))}
      </Steps>
      <LooseEnds job={job} />
      <NotYet>
        {say('{{x}} The tasks of each circuit come from its route and device.', {
          x:
            stage === 'first fix'
              ? say('boxes one by one, a cut list.')
              : say('accessories one by one, the torque of every terminal by its manufacturer.'),
        })}
      </NotYet>
    </>
  );
}
