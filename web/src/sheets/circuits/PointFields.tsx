import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { Fields } from '../../parts/layout';

/** What the circuit feeds, and where it goes. */
export function PointFields({ part }: { part: Part<Of<'Circuit'>> }) {
  const ev = part.value.use === 'ev';
  return (
    <Fields>
      <TextBox part={part} path="point.place" label={ev ? 'Where the charge point goes' : 'Where the load is'} />
      <TextBox part={part} path="point.manufacturer" label="Make" />
      <NumberBox part={part} path="point.currentA" label={ev ? 'Charge point current' : 'Load current'} unit="A" />
      {ev && (
        <>
          <NumberBox part={part} path="point.limitA" label="Set lower in the point" unit="A" help="0: not limited" />
          <NumberBox part={part} path="point.managedA" label="Load management holds the house to" unit="A" help="0: none" />
          <YesNoBox part={part} path="point.dcDetection" label="Detects 6 mA direct current" help="from its maker’s sheet" />
          <YesNoBox part={part} path="point.outdoor" label="Point stands outdoors" sure />
          <YesNoBox part={part} path="point.servesOutdoors" label="Vehicle stands outdoors" sure />
          <NumberBox part={part} path="point.heightMM" label="Height of the outlet" unit="mm" />
        </>
      )}
    </Fields>
  );
}
