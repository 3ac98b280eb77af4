import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { ChoiceBox, TextBox, YesNoBox } from '../../parts/fields';
import { Fields } from '../../parts/layout';
import { leaves } from '../board/ways';
import { say } from '../../words/words';
import { states } from './states';

/** What a circuit is called and what the job does to it: one that stays in part says whether anybody looked at what stays. */
export function StateFields({ part }: { part: Part<Of<'Circuit'>> }) {
  return (
    <Fields below="s">
      <TextBox part={part} path="name" label={say('Name')} />
      <ChoiceBox part={part} path="state" label={say('This job')} empty={say('makes the circuit')} options={states()} />
      {part.value.state && !leaves(part.value) && (
        <YesNoBox
          part={part}
          path="seen"
          label={say('What stays was looked at')}
          help={say('yes: its cable and device are as recorded here')}
          sure
        />
      )}
    </Fields>
  );
}
