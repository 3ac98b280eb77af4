import type { Of } from '../../api/client';
import { Bare, Heading, Item, P, Quiet, Section } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** What the report of an inspection comes to, and by which findings. */
export function Outcome({ outcome }: { outcome: Of<'ReportOutcome'> }) {
  return (
    <Section data-outcome={outcome.satisfactory ? 'satisfactory' : 'unsatisfactory'}>
      <Heading aside={<Quiet>{say('computed from the findings; whoever signs decides')}</Quiet>}>{say('Outcome')}</Heading>
      <P strong above="none">
        <Mark verdict={outcome.satisfactory ? 'pass' : 'fail'} />{' '}
        {outcome.satisfactory ? say('Satisfactory for what was inspected and tested.') : say('Unsatisfactory.')}
      </P>
      {outcome.because.length > 0 && (
        <Bare>
          {outcome.because.map((f) => (
            <Item key={f.id}>
              <b>{f.class}</b> {f.title}
              {f.where && <Quiet> · {f.where}</Quiet>}
            </Item>
          ))}
        </Bare>
      )}
    </Section>
  );
}
