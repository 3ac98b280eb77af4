import type { Of } from '../../api/client';
import { useSheetAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { ChoiceBox, NumberBox, YesNoBox } from '../../parts/fields';
import { Fields, Quiet } from '../../parts/layout';
import { useSizes } from '../../parts/practice';

/** The cable, what its conductors are made of, and what serves as the protective conductor. */
export function ConductorFields({ part, cores }: { part: Part<Of<'Circuit'>>; cores?: string }) {
  const terms = useTerms().data;
  const { route } = part.value;
  const cable = terms?.cables.find((c) => c.id === route.cableType);
  const bound = part as Part;
  const asks = useSheetAsks('conductor');
  const named = useSizes().length > 0;
  const colours = (terms?.survey.colours ?? []).filter((c) => c.era === 'new');
  return (
    <>
      <Fields style={{ gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 168px), 1fr))' }}>
        <ChoiceBox part={bound} path="route.cableType" label="Cable" options={terms?.cables ?? []} />
        <ChoiceBox
          part={bound}
          path="route.lineMM2"
          label={named ? 'Line conductor' : 'Line conductor, mm²'}
          numeric
          options={cable?.sizes ?? []}
        />
        <YesNoBox part={bound} path="route.terminals90" label="Terminals made for 90 °C" sure help="no, unless the manufacturers say so" />
        {asks('aluminium') && <YesNoBox part={bound} path="route.aluminium" label="Aluminium conductors" sure />}
        <ChoiceBox
          part={bound}
          path="route.cpc"
          label="Protective conductor"
          empty="a core of the cable"
          options={[
            { id: 'armour', name: 'its armour' },
            { id: 'separate', name: 'a conductor beside it' },
          ]}
        />
        {route.cpc === 'separate' && <NumberBox part={bound} path="route.cpcMM2" label="Beside it, copper" unit="mm²" />}
        {route.cpc === 'separate' && asks('cpcGuarded') && (
          <YesNoBox part={bound} path="route.cpcGuarded" label="Protected against damage" help="conduit, trunking or a void" />
        )}
      </Fields>
      {cores && (
        <p data-colours style={{ margin: '6px 0 0' }}>
          <Quiet>Cores: {cores}.</Quiet>
        </p>
      )}
      {!cores && colours.length > 0 && (
        <p data-colours style={{ margin: '6px 0 0' }}>
          <Quiet>
            Cores: {colours.map((c) => `${c.function} ${c.colour}`).join(' · ')}
            {colours.some((c) => c.warn) &&
              ` (${colours
                .map((c) => c.warn)
                .filter(Boolean)
                .join('; ')})`}
            .
          </Quiet>
        </p>
      )}
    </>
  );
}
