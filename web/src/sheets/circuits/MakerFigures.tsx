import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { FactBox } from '../../parts/fields';
import { Fields } from '../../parts/layout';

/** The figures of a circuit that only a maker's sheet has; a check that needs one says so until it is here. */
export function MakerFigures({ part }: { part: Part<Of<'Circuit'>> }) {
  const { aluminium, cpc } = part.value.route;
  const bound = part as Part;
  return (
    <Fields style={{ marginTop: 10, gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 300px), 1fr))' }}>
      <FactBox part={bound} path="protection.letThroughA2S" label="The device lets through, maker’s sheet" unit="A²s" />
      {aluminium && <FactBox part={bound} path="route.makerA" label="Aluminium carries, maker’s sheet" unit="A" />}
      {aluminium && <FactBox part={bound} path="route.makerMV" label="Aluminium drops, maker’s sheet" unit="mV/A/m" />}
      {cpc === 'armour' && <FactBox part={bound} path="route.armourMM2" label="Section of the armour, maker’s sheet" unit="mm²" />}
      {cpc === 'armour' && <FactBox part={bound} path="route.armourMOhmM" label="Resistance of the armour, maker’s sheet" unit="mΩ/m" />}
    </Fields>
  );
}
