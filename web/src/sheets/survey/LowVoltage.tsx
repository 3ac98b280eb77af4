import type { Of } from '../../api/client';
import { Heading, P, Quiet, Scroll, Section, SheetTable, Td } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { useUnits } from '../../parts/units';
import { say } from '../../words/words';

/** The points of extra-low voltage by room, each with a cable of its own back, and how far from power they were run. */
export function LowVoltage({ of }: { of: Of<'LowVoltage'> }) {
  const units = useUnits();
  if (of.rooms.length === 0) return null;
  const sum = of.cables.map((c) => `${c.runs} × ${c.name}, ${units.show(Math.ceil(c.lengthM), 'm')}`).join('; ');
  return (
    <Section data-low-voltage>
      <Heading aside={<Quiet>{sum}</Quiet>}>{say('Extra-low voltage')}</Heading>
      <Scroll>
        <SheetTable aria-label={say('Extra-low voltage, by room')} data-cards>
          <thead>
            <tr>
              <th scope="col">{say('Room')}</th>
              <th scope="col">{say('Points')}</th>
              <th scope="col">{say('Home run')}</th>
              <th scope="col">{say('Apart from power')}</th>
            </tr>
          </thead>
          <tbody>
            {of.rooms.map((r) => (
              <tr key={r.room}>
                <td>
                  <b>{r.name}</b>
                </td>
                <Td data-whole>{r.points.map((p) => `${p.count} × ${p.name}`).join(', ')}</Td>
                <Td data-label={say('Home run')} nowrap>
                  {r.assumed && '◐ '}
                  {units.show(r.homeM, 'm')}
                </Td>
                <Td data-label={say('Apart from power')}>
                  <Mark verdict={r.verdict} size={13} /> {r.says}
                </Td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
      <P small quiet>
        {say('What was run is written with the room, under its route. Source: {{source}}', { source: of.source })}
      </P>
    </Section>
  );
}
