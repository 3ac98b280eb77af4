import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, choices } from '../../parts/fields';
import { Fields, P } from '../../parts/layout';
import { feederOf, feedingUses } from '../board/ways';

interface Props {
  part: Part<Of<'Circuit'>>;
  j: Of<'Job'>;
  drawn?: Of<'Drawn'> | null;
}

/** What a circuit feeds, by its use: how much, of what kind, and where its cables lie. */
export function ServesFields({ part, j, drawn }: Props) {
  const terms = useTerms().data;
  const { use, id } = part.value;
  const { recessed } = part.value.serves;
  const asks = useAsks(use);
  const placed = part.value.serves.boxes.length > 0; // its run says what is on it
  const bound = part as Part;
  const feeding = feedingUses(terms);
  const feeds = [
    ...j.boards.filter((b) => b.feed !== id).map((b) => ({ id: feederOf(b), name: b.name })),
    ...j.circuits
      .filter((c) => feeding.has(c.use) && c.id !== id && !j.boards.some((b) => b.feed === c.id))
      .map((c) => ({ id: c.id, name: say('the board after {{name}}', { name: c.name }) })),
  ];
  // On another board its way and its shared device are others.
  const moved: Part<Of<'Circuit'>> = {
    ...part,
    save: (path, value) => {
      part.set('protection.way', 0);
      part.set('protection.half', '');
      part.set('protection.group', '');
      part.save(path, value);
    },
  };
  return (
    <>
      <Fields>
        <ChoiceBox part={bound} path="use" label={say('Use')} options={terms?.uses ?? []} help={say('decides its rules')} />
        <ChoiceBox part={moved} path="from" label={say('On the board')} empty={j.board.name || say('the main board')} options={feeds} />
        {asks('building') && <YesNoBox part={bound} path="out.building" label={say('Feeds another building')} sure />}
        {asks('place') && (
          <ChoiceBox
            part={bound}
            path="serves.place"
            label={say('Kind of place served')}
            options={terms?.places ?? []}
            empty={say('not recorded')}
            help={say('where no box says it')}
          />
        )}
        {asks('areaM2') && (
          <NumberBox part={bound} path="serves.areaM2" label={say('Floor area served')} unit="m²" help={say('0: not recorded')} />
        )}
        {asks('outlets') && !placed && <NumberBox part={bound} path="serves.outlets" label={say('Outlets or points')} />}
        {drawn && (
          <P small>
            {drawn.powerW > 0
              ? say('Its points draw {{power}} W in all by the walk.', { power: drawn.powerW })
              : say('Its point draws {{current}} A by the walk.', { current: drawn.currentA })}
          </P>
        )}
        {asks('powerW') && !drawn && (
          <NumberBox part={bound} path="serves.powerW" label={say('Power of all on it')} unit="W" help={say('0: known by current')} />
        )}
        {asks('plugged') && (
          <YesNoBox part={bound} path="serves.plugged" label={say('Plugs into an outlet')} help={say('no: it is wired in')} />
        )}
        {asks('threeWire') && part.value.state !== '' && (
          <YesNoBox part={bound} path="serves.threeWire" label={say('Existing three-wire: its neutral is its ground')} sure />
        )}
        {asks('motor') && <YesNoBox part={bound} path="serves.motor" label={say('A motor')} sure />}
        {asks('interlocked') && <YesNoBox part={bound} path="serves.interlocked" label={say('Never runs with the compressor')} sure />}
        {asks('roomControl') && <YesNoBox part={bound} path="serves.roomControl" label={say('A control in each room')} sure />}
        {asks('spread') && <YesNoBox part={bound} path="serves.spread" label={say('Load spread along it')} sure />}
        {asks('socket') && <YesNoBox part={bound} path="serves.socket" label={say('Socket in the control unit')} sure />}
        {asks('kind') && (
          <ChoiceBox
            part={bound}
            path="serves.kind"
            label={say('Load, for the residual current')}
            options={choices(terms?.loadKinds)}
            empty={say('usual for the use')}
          />
        )}
        {asks('concealed') && <YesNoBox part={bound} path="serves.concealed" label={say('Hidden shallow, unguarded')} sure />}
        {asks('bath') && <YesNoBox part={bound} path="serves.bath" label={say('Serves or passes a bathroom')} sure />}
        {asks('backfeed') && <YesNoBox part={bound} path="serves.backfeed" label={say('Power can flow back')} sure />}
        {part.value.serves.backfeed && (
          <TextBox
            part={bound}
            path="serves.lossOfMains"
            label={say('Certificate of its loss-of-mains protection')}
            help={say('its number: it stops when the supply is gone')}
          />
        )}
        {asks('recessed') && <YesNoBox part={bound} path="serves.recessed.fitted" label={say('Luminaires recessed')} sure />}
        {asks('recessed') && recessed.fitted && <Recessed part={bound} of={recessed} />}
        {asks('leakMA') && <FactBox part={bound} path="serves.leakMA" label={say('Standing leakage')} unit="mA" />}
      </Fields>
      {asks('spurs') && !placed && (
        <EditTable
          part={bound}
          path="serves.spurs"
          label={say('Spurs off the ring')}
          add={say('Add a spur')}
          newRow={() => ({ place: 'spur', lengthM: 2, outlets: 1, fused: false })}
          columns={[
            { key: 'place', label: say('Spur to') },
            { key: 'lengthM', label: say('Length'), unit: 'm', kind: 'number', width: 90 },
            { key: 'outlets', label: say('Outlets'), kind: 'number', width: 80 },
            { key: 'fused', label: say('Fused'), kind: 'check', width: 70 },
          ]}
        />
      )}
    </>
  );
}

/** How recessed luminaires sit: under a room whose fire they must hold back, under insulation. */
function Recessed({ part, of }: { part: Part; of: Of<'Recess'> }) {
  return (
    <>
      <YesNoBox
        part={part}
        path="serves.recessed.fire"
        label={say('Under a habitable room')}
        sure
        help={say('the ceiling keeps a fire from it')}
      />
      {of.fire && (
        <YesNoBox
          part={part}
          path="serves.recessed.tested"
          label={say('Fire tested for such a ceiling')}
          help={say('manufacturer’s statement, luminaire or hood')}
        />
      )}
      <YesNoBox part={part} path="serves.recessed.covered" label={say('Insulation over them')} sure />
      {of.covered && (
        <YesNoBox
          part={part}
          path="serves.recessed.coverable"
          label={say('Marked for that cover')}
          help={say('the mark on the luminaire')}
        />
      )}
    </>
  );
}
