import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useSheetAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { Fields, P } from '../../parts/layout';
import { freeEnclosures } from './ways';
import { WorkSpace } from './WorkSpace';

/** A board for itself: where it is, what feeds it and what its manufacturer says of it. */
export function BoardFields({ part, j }: { part: Part<Of<'Board'>>; j: Of<'Job'> }) {
  const terms = useTerms().data;
  const asks = useSheetAsks('board');
  const board = part.value;
  const enclosures = freeEnclosures(j, board);
  const feeder = j.circuits.find((c) => c.id === board.feed);
  return (
    <>
      {feeder && <P above="none">{say('Fed by {{name}}: its cable and device are on the Circuits sheet.', { name: feeder.name })}</P>}
      <Fields>
        <TextBox part={part} path="name" label={say('Name')} />
        <TextBox part={part} path="location" label={say('Location')} />
        <YesNoBox part={part} path="new" label={say('Put in by this job')} sure />
        {asks('place') && (
          <ChoiceBox
            part={part}
            path="place"
            label={say('Kind of place')}
            empty={say('not looked at')}
            options={terms?.boardPlaces ?? []}
          />
        )}
        {!feeder && enclosures.length > 0 && (
          <ChoiceBox
            part={part}
            path="enclosure"
            label={say('In the supply arrangement it is')}
            empty={board.id ? undefined : say('not said')}
            options={enclosures.map((e) => ({ id: e.id, name: e.name }))}
          />
        )}
        <TextBox part={part} path="material" label={say('Material')} />
        <FactBox part={part} path="mainSwitchA" label={say('Main switch')} unit="A" />
        <FactBox part={part} path="ratingA" label={say('Rated current')} unit="A" />
        {asks('conditionalKA') && !feeder && (
          <NumberBox
            part={part}
            path="conditionalKA"
            label={say('Conditional rating declared')}
            unit="kA"
            help={say('of the board, by its manufacturer, behind the main fuse; 0: none')}
          />
        )}
        {asks('halves') && (
          <NumberBox
            part={part}
            path="mostCircuits"
            label={say('Listed for so many poles')}
            help={say('half-size ones counted; 0: not read')}
          />
        )}
        {board.id && feeder && <YesNoBox part={part} path="joined" label={say('Neutral and earth joined in it')} />}
      </Fields>
      {asks('space') && <WorkSpace part={part} />}
    </>
  );
}
