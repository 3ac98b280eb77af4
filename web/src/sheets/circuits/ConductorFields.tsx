import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useSheetAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { ChoiceBox, NumberBox, YesNoBox } from '../../parts/fields';
import { Fields, P, Quiet } from '../../parts/layout';
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
      <Fields least={168}>
        <ChoiceBox part={bound} path="route.cableType" label={say('Cable')} options={terms?.cables ?? []} />
        <ChoiceBox
          part={bound}
          path="route.lineMM2"
          label={named ? say('Line conductor') : say('Line conductor, mm²')}
          numeric
          options={cable?.sizes ?? []}
        />
        <YesNoBox
          part={bound}
          path="route.terminals90"
          label={say('Terminals made for 90 °C')}
          sure
          help={say('no, unless the manufacturers say so')}
        />
        {asks('aluminium') && <YesNoBox part={bound} path="route.aluminium" label={say('Aluminium conductors')} sure />}
        <ChoiceBox
          part={bound}
          path="route.cpc"
          label={say('Protective conductor')}
          empty={say('a core of the cable')}
          options={[
            { id: 'armour', name: say('its armour') },
            { id: 'separate', name: say('a conductor beside it') },
          ]}
        />
        {route.cpc === 'separate' && <NumberBox part={bound} path="route.cpcMM2" label={say('Beside it, copper')} unit="mm²" />}
        {route.cpc === 'separate' && asks('cpcGuarded') && (
          <YesNoBox
            part={bound}
            path="route.cpcGuarded"
            label={say('Protected against damage')}
            help={say('conduit, trunking or a void')}
          />
        )}
      </Fields>
      {cores && (
        <P data-colours above="s" below="none">
          <Quiet>{say('Cores: {{cores}}.', { cores })}</Quiet>
        </P>
      )}
      {!cores && colours.length > 0 && (
        <P data-colours above="s" below="none">
          <Quiet>
            {say('Cores: {{colours}}', { colours: colours.map((c) => `${c.function} ${c.colour}`).join(' · ') })}
            {colours.some((c) => c.warn) &&
              ` (${colours
                .map((c) => c.warn)
                .filter(Boolean)
                .join('; ')})`}
            .
          </Quiet>
        </P>
      )}
    </>
  );
}
