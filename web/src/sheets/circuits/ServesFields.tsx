import type { Of } from '../../api/client';
import { useAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, FactBox, NumberBox, YesNoBox, choices } from '../../parts/fields';
import { Fields } from '../../parts/layout';

interface Props {
  part: Part<Of<'Circuit'>>;
  circuits: Of<'Circuit'>[];
}

/** What a circuit feeds, by its use: how much, of what kind, and where its cables lie. */
export function ServesFields({ part, circuits }: Props) {
  const terms = useTerms().data;
  const { use, id } = part.value;
  const { recessed } = part.value.serves;
  const asks = useAsks(use);
  const feeds = circuits.filter((c) => c.use === 'distribution' && c.id !== id);
  const bound = part as Part;
  return (
    <>
      <Fields>
        <ChoiceBox part={bound} path="use" label="Use" options={terms?.uses ?? []} help="decides its rules" />
        <ChoiceBox
          part={bound}
          path="from"
          label="Fed from"
          empty="the main board"
          options={feeds.map((c) => ({ id: c.id, name: `the board after ${c.name}` }))}
        />
        {asks('building') && <YesNoBox part={bound} path="out.building" label="Feeds another building" sure />}
        {asks('place') && (
          <ChoiceBox
            part={bound}
            path="serves.place"
            label="Kind of place served"
            options={terms?.places ?? []}
            empty="not yet known"
            help="where no box says it"
          />
        )}
        {asks('areaM2') && <NumberBox part={bound} path="serves.areaM2" label="Floor area served" unit="m²" help="0: not yet known" />}
        {asks('outlets') && <NumberBox part={bound} path="serves.outlets" label="Outlets or points" />}
        {asks('powerW') && <NumberBox part={bound} path="serves.powerW" label="Power of all on it" unit="W" help="0: known by current" />}
        {asks('plugged') && <YesNoBox part={bound} path="serves.plugged" label="Plugs into an outlet" help="no: it is wired in" />}
        {asks('motor') && <YesNoBox part={bound} path="serves.motor" label="A motor" sure />}
        {asks('interlocked') && <YesNoBox part={bound} path="serves.interlocked" label="Never runs with the compressor" sure />}
        {asks('roomControl') && <YesNoBox part={bound} path="serves.roomControl" label="A control in each room" sure />}
        {asks('spread') && <YesNoBox part={bound} path="serves.spread" label="Load spread along it" sure />}
        {asks('socket') && <YesNoBox part={bound} path="serves.socket" label="Socket in the control unit" sure />}
        {asks('kind') && (
          <ChoiceBox
            part={bound}
            path="serves.kind"
            label="Load, for the residual current"
            options={choices(terms?.loadKinds)}
            empty="usual for the use"
          />
        )}
        {asks('concealed') && <YesNoBox part={bound} path="serves.concealed" label="Hidden shallow, unguarded" sure />}
        {asks('bath') && <YesNoBox part={bound} path="serves.bath" label="Serves or passes a bathroom" sure />}
        {asks('backfeed') && <YesNoBox part={bound} path="serves.backfeed" label="Power can flow back" sure />}
        {asks('recessed') && <YesNoBox part={bound} path="serves.recessed.fitted" label="Luminaires recessed" sure />}
        {asks('recessed') && recessed.fitted && <Recessed part={bound} of={recessed} />}
        {asks('leakMA') && <FactBox part={bound} path="serves.leakMA" label="Standing leakage" unit="mA" />}
      </Fields>
      {asks('spurs') && (
        <EditTable<Of<'Spur'>>
          part={bound}
          path="serves.spurs"
          label="Spurs off the ring"
          add="Add a spur"
          fresh={() => ({ place: 'spur', lengthM: 2, outlets: 1, fused: false })}
          columns={[
            { key: 'place', label: 'Spur to' },
            { key: 'lengthM', label: 'Length', unit: 'm', kind: 'number', width: 90 },
            { key: 'outlets', label: 'Outlets', kind: 'number', width: 80 },
            { key: 'fused', label: 'Fused', kind: 'check', width: 70 },
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
      <YesNoBox part={part} path="serves.recessed.fire" label="Under a habitable room" sure help="the ceiling keeps a fire from it" />
      {of.fire && (
        <YesNoBox
          part={part}
          path="serves.recessed.tested"
          label="Fire tested for such a ceiling"
          help="manufacturer’s statement, luminaire or hood"
        />
      )}
      <YesNoBox part={part} path="serves.recessed.covered" label="Insulation over them" sure />
      {of.covered && (
        <YesNoBox part={part} path="serves.recessed.coverable" label="Marked for that cover" help="the mark on the luminaire" />
      )}
    </>
  );
}
