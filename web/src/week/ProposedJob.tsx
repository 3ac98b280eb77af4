import { Button } from '@mui/material';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { dayName } from '../parts/dayName';
import { figure } from '../parts/figure';
import { Bad, Block, Details, Quiet, Row } from '../parts/layout';
import { say } from '../words/words';

interface ProposedJobProps {
  j: Of<'ProposedJob'>;
  disabled: boolean;
  onTake: () => void;
  /** Changes the days of a step that does not go and of the one that is named with it. */
  onSwap: (step: Of<'ProposedStep'>) => void;
}

/** What is proposed of one job, day by day. */
export function ProposedJob({ j, disabled, onTake, onSwap }: ProposedJobProps) {
  const fresh = j.steps.filter((s) => !s.fixed);
  const moved = fresh.filter((s) => s.was);
  const clashes = j.steps.filter((s, n) => s.clash && j.steps.findIndex((x) => x.clash === s.clash && x.day === s.day) === n);
  const out = j.out.reduce((n, o) => n + o.steps, 0);
  const days = [...new Set(j.steps.map((s) => s.day))];
  return (
    <Block ruled pad="s" data-proposed={j.ref}>
      <Row>
        <Link to={`/jobs/${j.id}/plan`}>
          <b>{j.ref}</b> {j.title}
        </Link>
        <span>
          {[
            j.ends && say('done by {{day}}', { day: dayName(j.ends) }),
            say('steps with a day: {{n}}', { n: j.steps.length }),
            moved.length > 0 && say('moved: {{n}}', { n: moved.length }),
            out > 0 && say('without a day: {{n}}', { n: out }),
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
        {fresh.length > 0 && (
          <Button size="small" variant="contained" disabled={disabled} onClick={onTake}>
            {say('Take over')}
          </Button>
        )}
      </Row>
      {clashes.map((s) => (
        <div key={`${s.day} ${s.clash}`}>
          <Bad>{say('{{step}} on {{day}} does not go: {{why}}', { step: s.title, day: dayName(s.day), why: s.clash })}</Bad>{' '}
          {s.swap && s.task && (
            <Button size="small" disabled={disabled} data-swap={s.task} onClick={() => onSwap(s)}>
              {say('Change days with {{ref}}: {{title}} on {{day}}', { ref: s.swap.ref, title: s.swap.title, day: dayName(s.swap.day) })}
            </Button>
          )}
        </div>
      ))}
      <Details>
        <summary>{say('Day by day')}</summary>
        {days.map((d) => (
          <Block key={d} above="xs" data-day={d}>
            <b>{dayName(d)}</b>
            {j.steps
              .filter((s) => s.day === d)
              .map((s) => (
                <div key={s.task || s.title} data-step={s.task}>
                  {s.title} {s.until !== s.day && say('until {{day}}', { day: dayName(s.until) })}{' '}
                  <Quiet>{[s.who.join(', '), figure(s.hours, 'h')].filter(Boolean).join(' · ')}</Quiet>
                  {s.was && s.was !== s.day && <b> {say('instead of {{day}}', { day: dayName(s.was) })}</b>}
                  <Quiet block>{s.why}</Quiet>
                </div>
              ))}
          </Block>
        ))}
        {j.out.map((o) => (
          <Quiet key={o.why} block data-without>
            {say('Without a day, {{n}}: {{why}}', { n: o.steps, why: o.why })}
          </Quiet>
        ))}
      </Details>
    </Block>
  );
}
