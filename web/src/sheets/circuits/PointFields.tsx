import type { Of } from '../../api/client';
import { useAsks } from '../../api/job';
import type { Part } from '../../api/part';
import { NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { Fields } from '../../parts/layout';

/** Where the circuit ends and what stands there; a charge point with what it is held to. */
export function PointFields({ part }: { part: Part<Of<'Circuit'>> }) {
  const { use } = part.value;
  const asks = useAsks(use);
  const ev = asks('vehicle');
  return (
    <Fields>
      <TextBox part={part} path="point.place" label={ev ? 'Where the charge point goes' : 'Where it ends'} />
      <TextBox part={part} path="point.manufacturer" label="Make of what it feeds" />
      {asks('currentA') && (
        <NumberBox
          part={part}
          path="point.currentA"
          label={ev ? 'Charge point current' : 'Load current'}
          unit="A"
          help={ev ? undefined : 'where the power is not given'}
        />
      )}
      {asks('maxDevice') && (
        <NumberBox part={part} path="point.maxDeviceA" label="Largest device by the nameplate" unit="A" help="0: it names none" />
      )}
      {ev && (
        <>
          <NumberBox part={part} path="point.limitA" label="Set lower in the point" unit="A" help="0: not limited" />
          <NumberBox part={part} path="point.managedA" label="Load management holds the house to" unit="A" help="0: none" />
          {asks('dcDetection') && (
            <YesNoBox
              part={part}
              path="point.dcDetection"
              label="Detects 6 mA direct current"
              help="from its manufacturer’s instructions"
            />
          )}
          <YesNoBox part={part} path="point.outdoor" label="Point stands outdoors" sure />
          <YesNoBox part={part} path="point.servesOutdoors" label="Vehicle stands outdoors" sure />
          <NumberBox part={part} path="point.heightMM" label="Height of the outlet" unit="mm" />
        </>
      )}
    </Fields>
  );
}
