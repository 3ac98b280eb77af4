import { say } from '../../words/words';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { FactBox } from '../../parts/fields';
import { Fields } from '../../parts/layout';

/** The figures of a circuit that only a manufacturer's instructions has; a check that needs one says so until it is here. */
export function MakerFigures({ part }: { part: Part<Of<'Circuit'>> }) {
  const { aluminium, cpc } = part.value.route;
  const bound = part as Part;
  return (
    <Fields above="m" least={300}>
      <FactBox
        part={bound}
        path="protection.letThroughA2S"
        label={say('The device lets through, manufacturer’s instructions')}
        unit="A²s"
      />
      {aluminium && <FactBox part={bound} path="route.makerA" label={say('Aluminium carries, manufacturer’s instructions')} unit="A" />}
      {aluminium && <FactBox part={bound} path="route.makerMV" label={say('Aluminium drops, manufacturer’s instructions')} unit="mV/A/m" />}
      {cpc === 'armour' && (
        <FactBox part={bound} path="route.armourMM2" label={say('Section of the armour, manufacturer’s instructions')} unit="mm²" />
      )}
      {cpc === 'armour' && (
        <FactBox part={bound} path="route.armourMOhmM" label={say('Resistance of the armour, manufacturer’s instructions')} unit="mΩ/m" />
      )}
    </Fields>
  );
}
