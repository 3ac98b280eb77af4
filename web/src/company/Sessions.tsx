import { Button } from '@mui/material';
import { useState } from 'react';
import { useEndSessions, useSessions } from '../api/people';
import { useFrame } from '../frame/Shell';
import { Item, List, Quiet, SubHead, Wrong } from '../parts/layout';
import { moment, say } from '../words/words';

/** Where a person is signed in. Ending it asks once more, as it ends their work on every device. */
export function Sessions({ id, name }: { id: string; name: string }) {
  const { me } = useFrame();
  const list = useSessions(id);
  const end = useEndSessions();
  const [sure, setSure] = useState(false);
  const own = me.id === id;
  const others = list.data?.filter((s) => !s.this).length ?? 0;
  return (
    <>
      <SubHead>{say('Signed in on')}</SubHead>
      <List>
        {list.data?.map((s) => (
          <Item key={s.at + s.agent} data-session={s.this ? 'this' : 'other'}>
            {s.agent || say('a program that does not say what it is')}{' '}
            <Quiet>
              {say('since {{at}}, from {{address}}', { at: moment(s.at), address: s.address })}
              {s.this && ` · ${say('this device')}`}
            </Quiet>
          </Item>
        ))}
      </List>
      {(list.error ?? end.error) && <Wrong>{(list.error ?? end.error)?.message}</Wrong>}
      {others > 0 &&
        (sure ? (
          <>
            <Button
              size="small"
              variant="contained"
              disabled={end.isPending}
              onClick={() => end.mutate(id, { onSuccess: () => setSure(false) })}
            >
              {say('End them')}
            </Button>{' '}
            <Button size="small" onClick={() => setSure(false)}>
              {say('Leave them')}
            </Button>
          </>
        ) : (
          <Button size="small" onClick={() => setSure(true)}>
            {own ? say('End my other sessions') : say('End the sessions of {{name}}', { name })}
          </Button>
        ))}
      <Quiet block>{say('What an ended device still holds comes here for decision as soon as it has a connection.')}</Quiet>
    </>
  );
}
