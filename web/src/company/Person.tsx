import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../api/client';
import { useChangeColleague, useNewLink } from '../api/people';
import { useFrame } from '../frame/Shell';
import { Block, Fixed, Row, Wrong } from '../parts/layout';
import { say } from '../words/words';
import { Authorisations } from './Authorisations';
import { PasswordLink } from './Invite';
import { RoleChoice } from './RoleChoice';
import { Sessions } from './Sessions';

/** One person: role, password link, leaving, authorisations and sessions. */
export function Person({ person: p, names }: { person: Of<'Colleague'>; names: Record<string, string> }) {
  const { me } = useFrame();
  const change = useChangeColleague();
  const link = useNewLink();
  const [leaves, setLeaves] = useState(false);
  const wrong = change.error ?? link.error;
  return (
    <Block below="m">
      {wrong && <Wrong>{wrong.message}</Wrong>}
      {me.owns && (
        <Row align="end" below="s">
          <Fixed least={160}>
            <RoleChoice name="role" value={p.role} onValue={(role) => change.mutate({ id: p.id, role, left: p.left })} />
          </Fixed>
          {!p.left && (
            <Button size="small" disabled={link.isPending} onClick={() => link.mutate(p.id)}>
              {p.invited ? say('Make a new link') : say('Reset the password')}
            </Button>
          )}
          {p.left && (
            <Button size="small" disabled={change.isPending} onClick={() => change.mutate({ id: p.id, role: p.role, left: false })}>
              {say('Is back')}
            </Button>
          )}
          {!p.left && p.id !== me.id && (
            <Button size="small" aria-expanded={leaves} onClick={() => setLeaves(!leaves)}>
              {say('Has left')}
            </Button>
          )}
          {leaves && !p.left && (
            <Button
              size="small"
              variant="contained"
              disabled={change.isPending}
              onClick={() => change.mutate({ id: p.id, role: p.role, left: true }, { onSuccess: () => setLeaves(false) })}
            >
              {say('End every session and let {{name}} in no more', { name: p.name })}
            </Button>
          )}
        </Row>
      )}
      {link.data && <PasswordLink made={link.data} name={p.name} />}
      {!p.left && <Authorisations person={p} names={names} />}
      {p.sessions > 0 && <Sessions id={p.id} name={p.name} />}
    </Block>
  );
}
