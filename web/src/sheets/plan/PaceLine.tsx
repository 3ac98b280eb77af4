import type { Of } from '../../api/client';
import { dayName } from '../../parts/dayName';
import { figure } from '../../parts/figure';
import { Bad, P, Quiet } from '../../parts/layout';
import { say } from '../../words/words';

/** How the work goes beside the hours of the plan, and when it is done if it goes on like that. */
export function PaceLine({ pace: p }: { pace: Of<'Pace'> }) {
  if (!p.ends) return null;
  return (
    <P around="xs" data-pace>
      {p.enough
        ? say('{{n}} steps with hours noted took {{worked}} of {{planned}} planned: {{factor}} times the plan.', {
            n: p.steps,
            worked: figure(p.worked),
            planned: figure(p.planned, 'h'),
            factor: figure(p.factor),
          })
        : say('Fewer than three steps have hours noted: the plan’s hours hold until then.')}{' '}
      <b>
        {p.people === 1
          ? say('{{left}} are left: one person is through on {{day}}.', { left: figure(p.left, 'person-hours'), day: dayName(p.ends) })
          : say('{{left}} are left: {{people}} people are through on {{day}}.', {
              left: figure(p.left, 'person-hours'),
              people: p.people,
              day: dayName(p.ends),
            })}
      </b>{' '}
      {p.slips && <Bad>{say('That is later than the last day that is planned.')}</Bad>}
      {p.over.length > 0 && <Quiet block>{say('More than a quarter above their hours: {{n}} steps.', { n: p.over.length })}</Quiet>}
    </P>
  );
}
