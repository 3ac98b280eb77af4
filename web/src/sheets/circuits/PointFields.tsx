import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useAsks } from '../../api/job';
import type { Part } from '../../api/part';
import { NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { Fields } from '../../parts/layout';

/** Where the circuit ends and what stands there; a charge point with what it is held to. */
export function PointFields({ part, drawn }: { part: Part<Of<'Circuit'>>; drawn?: Of<'Drawn'> | null }) {
  const { use } = part.value;
  const asks = useAsks(use);
  const ev = asks('vehicle');
  return (
    <Fields>
      <TextBox part={part} path="point.place" label={ev ? say('Where the charge point goes') : say('Where it ends')} />
      <TextBox part={part} path="point.manufacturer" label={say('Make of what it feeds')} />
      {asks('currentA') && !drawn && (
        <NumberBox
          part={part}
          path="point.currentA"
          label={ev ? say('Charge point current') : say('Load current')}
          unit="A"
          help={ev ? undefined : say('where the power is not given')}
        />
      )}
      {asks('maxDevice') && (
        <NumberBox
          part={part}
          path="point.maxDeviceA"
          label={say('Largest device by the nameplate')}
          unit="A"
          help={say('0: it names none')}
        />
      )}
      {ev && (
        <>
          <NumberBox part={part} path="point.limitA" label={say('Set lower in the point')} unit="A" help={say('0: not limited')} />
          <NumberBox part={part} path="point.managedA" label={say('Load management holds the house to')} unit="A" help={say('0: none')} />
          {asks('dcDetection') && (
            <YesNoBox
              part={part}
              path="point.dcDetection"
              label={say('Detects 6 mA direct current')}
              help={say('from its manufacturer’s instructions')}
            />
          )}
          <YesNoBox part={part} path="point.outdoor" label={say('Point stands outdoors')} sure />
          <YesNoBox part={part} path="point.servesOutdoors" label={say('Vehicle stands outdoors')} sure />
          <NumberBox part={part} path="point.heightMM" label={say('Height of the outlet')} unit="mm" />
        </>
      )}
    </Fields>
  );
}
