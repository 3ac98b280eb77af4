import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import type { Change } from '../../api/take';
import { Bad, Bare, Heading, Item, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { msg, say } from '../../words/words';

const Floor = styled('div')({ display: 'flex', flexWrap: 'wrap', gap: 6, margin: '4px 0 10px' });
const Room = styled('div', { shouldForwardProp: (n) => n !== 'hit' })<{ hit: boolean }>(({ hit }) => ({
  border: `1px ${hit ? 'solid var(--ink)' : 'dashed var(--rule2)'}`,
  background: hit ? 'var(--wash)' : 'transparent',
  padding: '4px 8px',
  minWidth: 128,
  flex: '0 1 168px',
}));
const Lost = styled('span', { shouldForwardProp: (n) => n !== 'all' })<{ all: boolean }>(({ all }) => ({
  display: 'inline-block',
  fontSize: '.84em',
  marginRight: 5,
  padding: '0 4px',
  border: '1px solid var(--ink)',
  background: all ? 'var(--ink)' : 'transparent',
  color: all ? 'var(--sheet)' : 'var(--ink)',
}));

const names: Record<Of<'RoomLoss'>['loses'][number], string> = {
  light: msg('light'),
  power: msg('power'),
  heating: msg('heating'),
  alarms: msg('alarms'),
};

/** What goes dark when a device opens, drawn on the rooms, and which circuits would better hang on another device. */
export function WhatGoesDark({ dark, j, frozen, take }: { dark: Of<'Dark'>; j: Of<'Job'>; frozen: boolean; take: (c: Change) => void }) {
  const [chosen, setChosen] = useState('');
  const device = dark.devices.find((d) => d.id === chosen) ?? dark.devices.find((d) => d.worst) ?? dark.devices[0];
  if (!device) return null;
  const floors = [...new Set(j.rooms.map((r) => r.floor))];
  const elsewhere = device.rooms.find((r) => r.room === '');
  const move = (m: Of<'DarkMove'>) =>
    take({
      title: say('{{name}} to {{to}}', { name: m.name, to: m.to }),
      sets: [{ part: `circuits/${m.circuit}`, field: 'protection.group', value: m.group }],
    });
  return (
    <Section aria-label={say('What goes dark')} data-dark={device.id}>
      <Heading aside={<Quiet>{say('expected from the drawing; only a reading makes dead')}</Quiet>}>{say('What goes dark')}</Heading>
      <Row around="s">
        <Pick
          label={say('When this opens')}
          name="dark"
          value={device.id}
          empty={say('the worst')}
          onChange={setChosen}
          options={dark.devices.map((d) => ({
            id: d.id,
            name: `${d.name}, ${d.board}${d.worst ? say(' · takes most along') : ''}`,
          }))}
        />
        {device.both.length > 0 && <Bad>{say('Without light and power at once: {{rooms}}.', { rooms: device.both.join(', ') })}</Bad>}
      </Row>
      {floors.map((floor) => (
        <div key={floor}>
          <Quiet>{floor ? say('Floor {{floor}}', { floor }) : say('Floor not said')}</Quiet>
          <Floor>
            {j.rooms
              .filter((r) => r.floor === floor)
              .map((r) => {
                const loss = device.rooms.find((x) => x.room === r.id);
                return (
                  <Room key={r.id} hit={!!loss} title={loss?.points.join('\n')}>
                    <b>{r.name}</b>
                    <br />
                    {loss ? (
                      loss.loses.map((l) => (
                        <Lost key={l} all={loss.all.includes(l)}>
                          {loss.all.includes(l)
                            ? say('all {{loss}}', { loss: say(names[l]) })
                            : say('some {{loss}}', { loss: say(names[l]) })}
                        </Lost>
                      ))
                    ) : (
                      <Quiet>{say('keeps all')}</Quiet>
                    )}
                  </Room>
                );
              })}
          </Floor>
        </div>
      ))}
      {elsewhere && <P small>{say('Beside the rooms: {{points}}.', { points: elsewhere.points.join(', ') })}</P>}
      {dark.unplaced.length > 0 && (
        <P small quiet>
          {say('No point of these stands on its run, so that no room is drawn for them: {{names}}.', { names: dark.unplaced.join(', ') })}
        </P>
      )}
      {dark.abandoned.length > 0 && (
        <Wrong>
          {say('These leave and are not yet proved dead, so that nothing here says whether they are: {{names}}.', {
            names: dark.abandoned.join(', '),
          })}
        </Wrong>
      )}
      {dark.moves.length > 0 && (
        <Bare aria-label={say('Better grouped')}>
          {dark.moves.map((m) => (
            <Item key={m.circuit + m.group} pad="xs">
              {say('{{name}}: from {{from}} to {{to}}.', { name: m.name, from: m.from, to: m.to })} <Quiet>{m.why}</Quiet>{' '}
              <Button size="small" disabled={frozen} onClick={() => move(m)}>
                {say('Move it')}
              </Button>
            </Item>
          ))}
        </Bare>
      )}
    </Section>
  );
}
