import { Link } from 'react-router';
import type { Of } from '../api/client';
import { Bad, Block, Caution, Details, Quiet, Row } from '../parts/layout';
import { say } from '../words/words';
import { dayName } from '../parts/dayName';

interface JobWeekProps {
  job: Of<'PlannedJob'>;
  days: string[];
  today: string;
}

/** What is planned on a job in the week, what slipped before it, what has no day yet, and the first of what the job waits for. */
export function JobWeek({ job: j, days, today }: JobWeekProps) {
  const open = j.planned.filter((p) => !p.done);
  const slipped = open.filter((p) => p.on && p.on < today);
  const undated = open.filter((p) => !p.on);
  const on = (d: string) => j.planned.filter((p) => p.on === d);
  const line = (p: Of<'PlannedStep'>) => (
    <div key={p.task} data-planned={p.task}>
      {p.done ? '● ' : '○ '}
      {p.title}
      {p.who.length > 0 && <Quiet> · {p.who.join(', ')}</Quiet>}
      {p.weather && !p.done && <Caution>{p.weather}</Caution>}
      {p.held && !p.done && <Quiet block>{p.held}</Quiet>}
    </div>
  );
  return (
    <Block above="m" data-week-job={j.ref} style={{ borderTop: '1px solid var(--ink)' }}>
      <Row above="xs">
        <Link to={`/jobs/${j.id}/plan`}>
          <b>{j.ref}</b> {j.title}
        </Link>
        <Quiet>
          {say(j.stage)} · {j.town}
        </Quiet>
      </Row>
      {j.danger && <Bad>{say('Danger now: {{what}}', { what: j.danger })}</Bad>}
      {j.waits[0] && <Quiet block>{say('Waits for {{n}}: {{first}}', { n: j.waits[0].count, first: j.waits[0].first })}</Quiet>}
      {j.pace?.ends && (
        <Quiet block data-week-pace>
          {j.pace.slips ? (
            <Bad>{say('At this pace it ends on {{day}}, later than planned', { day: dayName(j.pace.ends) })}</Bad>
          ) : (
            say('At this pace it ends on {{day}}', { day: dayName(j.pace.ends) })
          )}
          {j.pace.over.length > 0 && ` · ${say('over by more than a quarter: {{n}} steps', { n: j.pace.over.length })}`}
        </Quiet>
      )}
      {slipped.length > 0 && (
        <Block above="xs">
          <Bad>{say('Slipped: {{n}}', { n: slipped.length })}</Bad>
          {slipped.map(line)}
        </Block>
      )}
      {days
        .filter((d) => on(d).length > 0)
        .map((d) => (
          <Block key={d} above="xs">
            <b>{dayName(d)}</b>{' '}
            <a href={`/api/jobs/${j.id}/day.pdf?day=${d}`} target="_blank" rel="noreferrer">
              {say('Day sheet')}
            </a>
            {on(d).map(line)}
          </Block>
        ))}
      {undated.length > 0 && (
        <Details>
          <summary>{say('Without a day: {{n}}', { n: undated.length })}</summary>
          {undated.map(line)}
        </Details>
      )}
    </Block>
  );
}
