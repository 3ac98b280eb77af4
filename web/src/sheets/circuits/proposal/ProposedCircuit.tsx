import { styled } from '@mui/material/styles';
import { Checkbox } from '@mui/material';
import type { Of } from '../../../api/client';
import { Bad, Details, Item, List, Quiet } from '../../../parts/layout';
import { Mark } from '../../../parts/Mark';
import { useUnits } from '../../../parts/units';
import { say } from '../../../words/words';

const Card = styled('li')({
  display: 'grid',
  gridTemplateColumns: '44px 1fr',
  alignItems: 'start',
  borderTop: '1px solid var(--rule2)',
  padding: '4px 0',
});
const Facts = styled('div')({ display: 'flex', flexWrap: 'wrap', gap: '0 16px', alignItems: 'baseline', paddingTop: 9 });
const Name = styled('b')({ minWidth: 220 });

interface Props {
  circuit: Of<'Proposed'>;
  chosen: boolean;
  onChoose: () => void;
}

/** One circuit that is proposed: what it would be, why its points go together, and its run. */
export function ProposedCircuit({ circuit: c, chosen, onChoose }: Props) {
  const units = useUnits();
  return (
    <Card data-proposed={c.id}>
      <Checkbox checked={chosen} onChange={onChoose} slotProps={{ input: { 'aria-label': say('Take {{name}}', { name: c.name }) } }} />
      <div>
        <Facts>
          <Name>
            <Mark verdict={c.verdict} size={13} /> {c.name}
          </Name>
          <span>{c.shared ? `${c.device} · ${c.shared}` : c.device}</span>
          <span>{c.conductor}</span>
          <span>◐ {units.show(c.lengthM, 'm')}</span>
          <span>{c.way > 0 ? say('way {{no}}', { no: c.way }) : <Bad>{say('no way')}</Bad>}</span>
          <Quiet>{c.stops.length === 1 ? say('1 point') : say('{{count}} points', { count: c.stops.length })}</Quiet>
          {c.governs && <Quiet>{say('governed by: {{check}}', { check: c.governs })}</Quiet>}
        </Facts>
        {c.fails.map((f) => (
          <div key={f}>
            <Bad>{f}</Bad>
          </div>
        ))}
        <Details>
          <summary>{c.why}</summary>
          <List as="ol">
            {c.stops.map((s) => (
              <Item key={s.name}>
                {s.name} <Quiet>◐ {units.show(s.legM, 'm')}</Quiet>
              </Item>
            ))}
          </List>
        </Details>
      </div>
    </Card>
  );
}
