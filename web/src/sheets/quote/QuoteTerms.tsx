import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { doers } from '../../company/priceRule';
import { useFrame } from '../../frame/Shell';
import { EditTable } from '../../parts/EditTable';
import { NumberBox, TextBox } from '../../parts/fields';
import { Block, Fields, Heading, P, Quiet, Section } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';
import { upTo } from './priceSays';

/** What of the price is the job's own, what the client may decline and what is left to others. */
export function QuoteTerms({ j, part, sheet }: { j: Of<'Job'>; part: Part<Of<'Quote'>>; sheet: Of<'QuoteSheet'> }) {
  const made = j.circuits.filter((c) => !c.state);
  return (
    <>
      <Section>
        <Heading>{say('What the client may decline')}</Heading>
        <P above="none">
          <Quiet>{say('A circuit that is optional is not in the price; what it adds is worked out with all that goes with it.')}</Quiet>
        </P>
        <EditTable
          part={part}
          path="optional"
          label={say('Optional circuits')}
          add={say('Make a circuit optional')}
          newRow={(rows) => ({
            circuit: made.find((c) => !rows.some((r) => r.circuit === c.id))?.id ?? '',
            without: say('It can be added later, at the cost of another visit.'),
          })}
          columns={[
            { key: 'circuit', label: say('Circuit'), kind: 'choice', width: 220, options: made.map((c) => ({ id: c.id, name: c.name })) },
            { key: 'without', label: say('What it means to do without it') },
          ]}
        />
        <OptionList options={sheet.options} />
      </Section>
      <Section>
        <Heading>{say('Charges, plant and allowances')}</Heading>
        <P above="none">
          <Quiet>
            {say('The operator’s charge for the way to isolate is in the price by itself. An allowance is settled by what it comes to.')}
          </Quiet>
        </P>
        <EditTable
          part={part}
          path="extras"
          label={say('Charges, plant and allowances')}
          add={say('Add a charge')}
          newRow={() => ({ kind: 'charge' as const, what: say('Permit'), cost: null })}
          columns={[
            { key: 'kind', label: say('Kind'), kind: 'choice', width: 220, options: extraKinds() },
            { key: 'what', label: say('What for') },
            { key: 'cost', label: say('As charged to the client'), kind: 'number', optional: true, width: 130 },
          ]}
        />
      </Section>
      <Section>
        <Heading>{say('Not in the price')}</Heading>
        <EditTable
          part={part}
          path="rest"
          label={say('Not in the price of this job')}
          add={say('Add what is left to others')}
          newRow={() => ({ what: say('Plastering and decorating'), who: 'trade' as const })}
          columns={[
            { key: 'what', label: say('What is not done') },
            { key: 'who', label: say('Who does it'), kind: 'choice', width: 280, options: doers() },
          ]}
        />
        {sheet.price.rest.length > part.value.rest.length && (
          <P small quiet>
            {say('Beside these, from the company’s list, the survey and the order list: {{list}}.', {
              list: sheet.price.rest
                .filter((r) => !part.value.rest.some((o) => o.what === r.what))
                .map((r) => r.what)
                .join('; '),
            })}
          </P>
        )}
      </Section>
      <Section>
        <Heading>{say('Rates of this job')}</Heading>
        <Fields>
          <NumberBox part={part} path="markupPc" label={say('Mark-up on parts')} unit="%" optional help={say('empty: the company’s')} />
          <NumberBox part={part} path="contingencyPc" label={say('Contingency')} unit="%" optional help={say('empty: the company’s')} />
          <NumberBox part={part} path="taxPc" label={say('Tax')} unit="%" optional help={say('empty: the company’s')} />
        </Fields>
        <Block above="s">
          <TextBox part={part} path="note" label={say('Said on the quote')} lines={3} />
        </Block>
      </Section>
    </>
  );
}

const extraKinds = () => [
  { id: 'charge', name: say('Charge of others') },
  { id: 'plant', name: say('Plant hire') },
  { id: 'allowance', name: say('Allowance') },
  { id: 'trade', name: say('Work of another trade') },
];

/** Everything that is the client's to take, with what it adds. */
function OptionList({ options }: { options: Of<'QuoteOption'>[] }) {
  const { me } = useFrame();
  return (
    <>
      {options.map((o) => (
        <Block key={o.id} ruled pad="xs" data-option={o.id}>
          <b>{o.name}</b>{' '}
          {o.cost === null || o.cost === undefined ? (
            <>
              <Mark verdict="unknown" size={13} /> {say('not priced')}
            </>
          ) : (
            <>+ {upTo(o.cost, o.high ?? o.cost, me.currency)}</>
          )}
          {o.finding && <Quiet> {say('found on the survey')}</Quiet>}
          <br />
          <Quiet>{say('Without it: {{what}}', { what: o.without })}</Quiet>
          {o.why && (
            <P around="xs">
              <Mark verdict="fail" size={13} /> {o.why}
            </P>
          )}
        </Block>
      ))}
    </>
  );
}
