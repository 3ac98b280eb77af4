import type { Of } from '../../api/client';
import { Bare, Heading, Item, P, Quiet, Section } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** What the report of an inspection comes to, and by which findings. */
export function Outcome({ outcome }: { outcome: Of<'ReportOutcome'> }) {
  const verdict = outcome.satisfactory ? 'satisfactory' : outcome.because.length ? 'unsatisfactory' : 'open';
  return (
    <Section data-outcome={verdict}>
      <Heading aside={<Quiet>{say('computed from the findings; whoever signs decides')}</Quiet>}>{say('Outcome')}</Heading>
      <P strong above="none">
        <Mark verdict={{ satisfactory: 'pass', unsatisfactory: 'fail', open: 'unknown' }[verdict] as Of<'Verdict'>} />{' '}
        {verdict === 'satisfactory' && say('Satisfactory for what was inspected and tested.')}
        {verdict === 'unsatisfactory' && say('Unsatisfactory.')}
        {verdict === 'open' && say('Not yet known: {{n}} things are still to be inspected, tested or answered.', { n: outcome.open })}
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
