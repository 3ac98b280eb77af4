import { styled } from '@mui/material/styles';
import { useState } from 'react';
import type { Of } from '../api/client';
import { usePeople } from '../api/people';
import { useFrame } from '../frame/Shell';
import { Heading, Quiet, Scroll, Section, SheetTable, Wrong } from '../parts/layout';
import { say } from '../words/words';
import { Invite } from './Invite';
import { Person } from './Person';

const Name = styled('button')({
  border: 0,
  background: 'none',
  padding: 0,
  font: 'inherit',
  fontWeight: 600,
  color: 'var(--copper)',
  textDecoration: 'underline',
  textAlign: 'left',
  cursor: 'pointer',
});

/** How a person stands with the company. */
function standing(p: Of<'Colleague'>): string {
  if (p.left) return say('has left');
  if (p.invited) return say('invited, no password yet');
  return p.sessions === 1 ? say('1 device') : say('{{n}} devices', { n: p.sessions });
}

/** The company's people: who they are, what they are authorised to do, where they are signed in. */
export function People() {
  const { me } = useFrame();
  const people = usePeople();
  const [open, setOpen] = useState('');
  const names = Object.fromEntries(me.authorities.map((a) => [a.id, a.name]));
  return (
    <Section>
      <Heading>{say('Who works here')}</Heading>
      <p>
        <Quiet>
          {say(
            'A role is no competence: who isolates, tests, permits or signs is authorised for it here, by name and as long as is said. Skills stand beside it: a step that takes one is planned for somebody who has it, once the company keeps record of it.',
          )}
        </Quiet>
      </p>
      {people.error && <Wrong>{people.error.message}</Wrong>}
      {people.isPending && <p>{say('Looking …')}</p>}
      <Scroll>
        <SheetTable aria-label={say('People')} data-cards>
          <thead>
            <tr>
              <th scope="col">{say('Name')}</th>
              <th scope="col">{say('Role')}</th>
              <th scope="col">{say('Authorised to, skilled in')}</th>
              <th scope="col">{say('Signed in on')}</th>
            </tr>
          </thead>
          <tbody>
            {people.data?.map((p) => {
              const held = p.authorisations.filter((a) => !a.lapsed);
              return [
                <tr key={p.id} data-person={p.name}>
                  <td data-whole>
                    <Name type="button" aria-expanded={open === p.id} onClick={() => setOpen(open === p.id ? '' : p.id)}>
                      {p.name}
                    </Name>
                    <Quiet block>{p.email}</Quiet>
                  </td>
                  <td data-label={say('Role')}>{say(p.role)}</td>
                  <td data-label={say('Authorised to, skilled in')}>
                    {[...new Set(held.map((a) => names[a.kind] ?? a.kind))].join(', ') || <Quiet>{say('nothing')}</Quiet>}
                  </td>
                  <td data-label={say('Signed in on')}>{standing(p)}</td>
                </tr>,
                open === p.id && (
                  <tr key={`${p.id} open`}>
                    <td data-whole colSpan={4}>
                      <Person person={p} names={names} />
                    </td>
                  </tr>
                ),
              ];
            })}
          </tbody>
        </SheetTable>
      </Scroll>
      {me.owns && <Invite />}
    </Section>
  );
}
