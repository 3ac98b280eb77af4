import type { Of } from '../../api/client';
import { Heading, Item, List, P, Quiet, Section } from '../../parts/layout';
import { say } from '../../words/words';

/** The cables of controls as they are pulled, alike ones said once. */
const cablesOf = (controls: Of<'Control'>[]) =>
  [
    ...new Set(
      controls.flatMap((c) =>
        c.legs.map((l) => say('{{name}} {{cores}} cores and earth ({{says}})', { name: l.name, cores: l.cores, says: l.says })),
      ),
    ),
  ].join('; ');

/** How the lights of the walk are switched, room by room, and what each control takes. */
export function Controls({ controls }: { controls: Of<'Control'>[] }) {
  if (controls.length === 0) return null;
  const rooms = [...new Set(controls.map((c) => c.room))];
  const assumed = controls.filter((c) => c.assumed).length;
  const total = new Map<string, number>();
  for (const p of controls.flatMap((c) => c.parts)) total.set(p.name, (total.get(p.name) ?? 0) + p.count);
  return (
    <Section data-controls>
      <Heading aside={<Quiet>{[...total].map(([name, n]) => `${n} × ${name}`).join(', ')}</Quiet>}>{say('Switches')}</Heading>
      <P small quiet>
        {say('Alike lights of a room are switched together.')}{' '}
        {assumed > 0 &&
          say('◐ of {{count}} nobody said how: from one place is assumed. Write two way, intermediate or sensor with the light.', {
            count: assumed,
          })}
      </P>
      <P small quiet>
        {say('Cables')}: {cablesOf(controls)}.
      </P>
      <List>
        {rooms.map((room) => {
          const here = controls.filter((c) => c.room === room);
          return (
            <Item key={room}>
              <b>{here[0].roomName}</b>:{' '}
              {here
                .map((c) =>
                  say('{{mark}}{{lamps}} × {{name}} from {{n}}, {{parts}}', {
                    mark: c.assumed ? '◐ ' : '',
                    lamps: c.lamps,
                    name: c.name,
                    n: c.positions === 1 ? say('one place') : say('{{n}} places', { n: c.positions }),
                    parts: c.parts.map((p) => `${p.count} × ${p.name}`).join(', '),
                  }),
                )
                .join('; ')}
              .
            </Item>
          );
        })}
      </List>
    </Section>
  );
}
