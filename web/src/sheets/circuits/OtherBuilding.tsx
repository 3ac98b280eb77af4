import { say } from '../../words/words';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { FactBox, TextBox, YesNoBox } from '../../parts/fields';
import { Caution, Fields, Heading, Quiet, Section } from '../../parts/layout';
import { OptionCards } from './OptionCards';

interface Props {
  part: Part<Of<'Circuit'>>;
  options: Of<'Option'>[];
  check?: Of<'Check'>;
}

/** How another building that the circuit feeds is earthed: both ways with their conditions. */
export function OtherBuilding({ part, options, check }: Props) {
  const bound = part as Part;
  const { choice, metalwork } = part.value.out;
  return (
    <Section>
      <Heading aside={check && <Quiet>{check.summary}</Quiet>}>{say('Earth of the other building: decide')}</Heading>
      <Caution>
        {say('Two earths that a person can touch at once are a danger of their own: one or the other in a building, never both.')}
      </Caution>
      <OptionCards part={bound} path="out.choice" label={say('Earth of the other building')} options={options} />
      <Fields above="m" least={300}>
        <YesNoBox
          part={bound}
          path="out.metalwork"
          label={say('Metal services or structure enter it')}
          help={say('pipes, frames, rails in the ground')}
        />
        {choice === 'export' && metalwork && (
          <FactBox part={bound} path="out.bondMM2" label={say('Bond run beside the cable')} unit="mm²" />
        )}
        {choice === 'electrode' && <FactBox part={bound} path="out.raOhm" label={say('Its electrode')} unit="Ω" />}
        {choice && <TextBox part={bound} path="out.reason" label={say('Why this way, for the record')} lines={1} />}
      </Fields>
    </Section>
  );
}
