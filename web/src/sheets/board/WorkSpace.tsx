import { say } from '../../words/words';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { NumberBox, YesNoBox } from '../../parts/fields';
import { Details, Fields } from '../../parts/layout';

/** The room to work in front of a board, as measured with a tape. */
export function WorkSpace({ part }: { part: Part<Of<'Board'>> }) {
  return (
    <Details>
      <summary>{say('Room to work in front of it, measured')}</summary>
      <Fields>
        <NumberBox part={part} path="space.depthMM" label={say('Free depth')} unit="mm" />
        <NumberBox part={part} path="space.widthMM" label={say('Free width')} unit="mm" />
        <NumberBox part={part} path="space.heightMM" label={say('Free height')} unit="mm" />
        <NumberBox part={part} path="space.boardMM" label={say('The board is wide')} unit="mm" />
        <NumberBox part={part} path="space.topMM" label={say('Its top above the floor')} unit="mm" />
        <NumberBox part={part} path="space.handleMM" label={say('Highest handle above the floor')} unit="mm" />
        <YesNoBox part={part} path="space.door90" label={say('Its door opens by 90°')} />
      </Fields>
    </Details>
  );
}
