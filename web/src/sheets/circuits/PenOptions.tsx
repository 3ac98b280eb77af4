import { say } from '../../words/words';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { FactBox, NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { Caution, Fields, Heading, Quiet, Section } from '../../parts/layout';
import { OptionCards } from './OptionCards';

interface Props {
  part: Part<Of<'Circuit'>>;
  options: Of<'Option'>[];
  check?: Of<'Check'>;
}

/** What protects outdoors when the combined neutral-earth conductor breaks: the options, each with its condition and reason. */
export function PenOptions({ part, options, check }: Props) {
  const option = part.value.pen.option;
  const electrode = option === 'tt_rod' || option === 'met_electrode';
  return (
    <Section>
      <Heading aside={check && <Quiet>{check.summary}</Quiet>}>{say('Broken combined neutral-earth conductor: decide')}</Heading>
      <Caution>
        {say(
          'When that conductor breaks, every earthed case may stand at line voltage while a person at the vehicle stands on the ground.',
        )}
      </Caution>
      <OptionCards part={part} path="pen.option" label={say('Options')} options={options} />
      {option && (
        <Fields above="m" least={300}>
          <TextBox part={part} path="pen.reason" label={say('Why this one, for the record')} lines={1} />
          {!electrode && <YesNoBox part={part} path="pen.opensAll" label={say('Manufacturer states: opens line, neutral and earth')} />}
          {electrode && <FactBox part={part} path="pen.raOhm" label={say('Electrode resistance')} unit="Ω" />}
          {option === 'tt_rod' && (
            <FactBox part={part} path="pen.separationM" label={say('Distance to metal earthed from the supply')} unit="m" />
          )}
          {electrode && <FactBox part={part} path="pen.soilOhmM" label={say('Soil resistivity, for an estimate')} unit="Ωm" />}
          {electrode && <NumberBox part={part} path="pen.rodLengthM" label={say('Rod length')} unit="m" />}
          {electrode && <NumberBox part={part} path="pen.rods" label={say('Rods')} />}
        </Fields>
      )}
    </Section>
  );
}
