import type { Of } from '../api/client';
import type { Part } from '../api/part';
import { EditTable } from '../parts/EditTable';
import { ChoiceBox, NumberBox, TextBox } from '../parts/fields';
import { Block, Fields, Heading, P, Quiet, Section } from '../parts/layout';
import { say } from '../words/words';
import { doers, taxBases } from './priceRule';

/** How the company makes a price of what a job takes, and what it usually leaves to others. */
export function PriceRule({ part }: { part: Part<Of<'Company'>> }) {
  return (
    <Section>
      <Heading>{say('How a price is made')}</Heading>
      <P above="none">
        <Quiet>
          {say(
            'Parts at the list’s net prices with the mark-up, hours at the list’s line “hour”, what others charge as it is. ' +
              'A job may have its own.',
          )}
        </Quiet>
      </P>
      <Fields>
        <NumberBox part={part} path="quote.markupPc" label={say('Mark-up on parts')} unit="%" />
        <NumberBox part={part} path="quote.contingencyPc" label={say('Contingency')} unit="%" />
        <TextBox part={part} path="quote.taxName" label={say('Tax, its name')} />
        <NumberBox part={part} path="quote.taxPc" label={say('Tax')} unit="%" />
        <ChoiceBox part={part} path="quote.taxOn" label={say('Tax is on')} options={taxBases()} />
        <NumberBox part={part} path="quote.validDays" label={say('A quote stands for')} unit="days" help={say('0 for 30')} />
        <TextBox part={part} path="quote.pays" label={say('When it is paid')} />
      </Fields>
      <Block above="s">
        <EditTable
          part={part}
          path="quote.rest"
          label={say('Usually not in the price')}
          add={say('Add what is left to others')}
          newRow={() => ({ what: say('Plastering and decorating'), who: 'trade' as const })}
          columns={[
            { key: 'what', label: say('Usually not in the price') },
            { key: 'who', label: say('Who does it'), kind: 'choice', width: 280, options: doers() },
          ]}
        />
      </Block>
    </Section>
  );
}
