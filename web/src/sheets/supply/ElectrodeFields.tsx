import type { Of } from '../../api/client';
import { usePart, type Part } from '../../api/part';
import { ChoiceBox, FactBox, choices } from '../../parts/fields';
import { say } from '../../words/words';

/** The resistance of the installation's electrodes: one figure, here and with the works outdoors. A job of before may have it with the supply. */
export function ElectrodeFields({ job, j, part }: { job: Of<'JobView'>; j: Of<'Job'>; part: Part<Of<'Supply'>> }) {
  const outdoor = usePart(job, 'outdoor', j.outdoor);
  if (part.value.electrodeOhm.value !== null && outdoor.value.electrodes.measured.value === null)
    return <FactBox part={part} path="electrodeOhm" label={say('Earth electrode')} unit="Ω" />;
  return (
    <>
      <FactBox part={outdoor} path="electrodes.measured" label={say('Earth electrode')} unit="Ω" />
      <ChoiceBox
        part={outdoor}
        path="electrodes.method"
        label={say('Measured by')}
        empty={say('not said')}
        options={choices([say('fall of potential'), 'clamp', 'loop'])}
      />
    </>
  );
}
