import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { ChoiceBox, TextBox, YesNoBox } from '../../parts/fields';
import { Fields } from '../../parts/layout';
import { leaves } from '../board/ways';
import { say } from '../../words/words';

/** What a circuit is called and what the job does to it: one that stays in part says whether anybody looked at what stays. */
export function StateFields({ part }: { part: Part<Of<'Circuit'>> }) {
  return (
    <Fields below="s">
      <TextBox part={part} path="name" label={say('Name')} />
      <ChoiceBox
        part={part}
        path="state"
        label={say('This job')}
        empty={say('makes the circuit')}
        options={[
          { id: 'altered', name: say('leaves its cable, changes its device') },
          { id: 'kept', name: say('repairs or replaces something on it') },
          { id: 'inspected', name: say('inspects and tests it') },
          { id: 'removed', name: say('takes it out') },
          { id: 'dormant', name: say('leaves its cable for later, connected to nothing') },
        ]}
      />
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
