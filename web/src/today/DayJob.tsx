import { styled } from '@mui/material/styles';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { PracticeContext } from '../api/job';
import { Fold } from '../parts/Fold';
import { Bad, Caution, List, P, Quiet, Row } from '../parts/layout';
import { StepClock } from '../parts/StepClock';
import { say } from '../words/words';
import { DayStep } from './DayStep';
import { sheetOf } from './sheetOf';

const Job = styled('details')({
  borderTop: '2px solid var(--ink)',
  padding: '6px 0 14px',
  '& > summary': { cursor: 'pointer', minHeight: 44, display: 'flex', alignItems: 'center', gap: 8, flexWrap: 'wrap' },
});
const Next = styled('div')({
  border: '1px solid var(--ink)',
  borderLeft: '4px solid var(--copper)',
  padding: '10px 12px',
  margin: '10px 0',
});
const Large = styled('b')({ display: 'block', fontSize: '1.2em', lineHeight: 1.3, margin: '2px 0 4px', overflowWrap: 'anywhere' });

/** A job of the day: how to get in and whom to call, what hangs there, the next step large, and the rest folded by room. */
export function DayJob({ j, first }: { j: Of<'TodayJob'>; first: boolean }) {
  const [unfolded, setUnfolded] = useState(first);
  const open = unfolded || j.dangers.length > 0;
  const left = j.groups.reduce((n, g) => n + g.tasks.length, 0);
  const rest = j.groups.map((g) => ({ ...g, tasks: g.tasks.filter((t) => t.id !== j.next?.id) })).filter((g) => g.tasks.length > 0);
  return (
    <PracticeContext value={j.practice}>
      <Job open={open} onToggle={(e) => e.target === e.currentTarget && setUnfolded(e.currentTarget.open)} data-day-job={j.ref}>
        <summary>
          <b>
            {j.ref} {j.title}
          </b>{' '}
          <Quiet>{say('{{n}} to do', { n: left })}</Quiet>
        </summary>
        {open && (
          <>
            {j.dangers.map((d) => (
              <Bad key={d.id} style={{ display: 'block' }}>
                {say('Danger now: {{what}}', { what: [d.title, d.seen].filter(Boolean).join('. ') })}
              </Bad>
            ))}
            <P around="xs">
              {[j.customer, j.address, j.town].filter(Boolean).join(', ')}
              {j.phone && (
                <>
                  {' · '}
                  <a href={`tel:${j.phone.replace(/\s/g, '')}`}>{j.phone}</a>
                </>
              )}
            </P>
            {j.access && <P around="xs">{say('Access: {{how}}', { how: j.access })}</P>}
            {j.words.map((w) => (
              <P key={w} around="xs" data-word>
                {w}
              </P>
            ))}
            {j.hazards && <Caution>{j.hazards}</Caution>}
            {j.locks.length > 0 && (
              <P around="xs" strong>
                {say('Locks in place: {{n}}.', { n: j.locks.length })} {j.locks.map((l) => `${l.by} ${l.lockTag}`).join(', ')}
              </P>
            )}
            {j.next ? (
              <Next data-day-next={j.next.id}>
                <Quiet>
                  {say('Next')} · {j.place}
                </Quiet>
                <Large>{j.next.title}</Large>
                {j.next.caution && <Caution>{j.next.caution}</Caution>}
                <Row gap="m" align="start">
                  <DayStep job={j} task={j.next} large />
                  <StepClock job={j.id} task={j.next} frozen={j.frozen} />
                </Row>
              </Next>
            ) : (
              <P around="xs">
                {left > 0 ? say('Nothing is open to you now: each step says what it waits for.') : say('Nothing is left to do here.')}
              </P>
            )}
            <Row gap="m">
              <Link to={`/jobs/${j.id}/${sheetOf(j.next?.stage ?? j.stage)}`}>{say('Open its sheet')}</Link>
              <a href={`/api/jobs/${j.id}/day.pdf`} target="_blank" rel="noreferrer">
                {say('Day sheet')}
              </a>
              {j.left > 0 && <Link to={`/jobs/${j.id}/second-fix`}>{say('Left as they are: {{n}}', { n: j.left })}</Link>}
            </Row>
            {j.take.length > 0 && (
              <Fold summary={say('Into the van ({{n}})', { n: j.take.length })}>
                {() => (
                  <>
                    <List>
                      {j.take.map((t) => (
                        <li key={t}>{t}</li>
                      ))}
                    </List>
                    <Link to={`/jobs/${j.id}/materials?leaf=van`}>{say('What goes into the van')}</Link>
                  </>
                )}
              </Fold>
            )}
            {rest.map((g) => (
              <Fold
                key={g.place}
                data-day-place={g.place}
                summary={
                  <>
                    {g.place} <Quiet>{say('{{n}} to do, {{done}} done', { n: g.tasks.length, done: g.done })}</Quiet>
                  </>
                }
              >
                {() =>
                  g.tasks.map((t) => (
                    <Row key={t.id} ruled pad="s" align="start">
                      <span style={{ flex: 1 }}>
                        {t.title}
                        {t.closed && <Quiet block>{t.closed}</Quiet>}
                      </span>
                      <DayStep job={j} task={t} />
                    </Row>
                  ))
                }
              </Fold>
            ))}
          </>
        )}
      </Job>
    </PracticeContext>
  );
}
