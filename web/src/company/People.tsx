import { Button } from '@mui/material';
import { useState } from 'react';
import { useEndSessions, usePeople } from '../api/people';
import { useFrame } from '../frame/Shell';
import { Heading, Quiet, Scroll, Section, SheetTable, Wrong } from '../parts/layout';
import { say } from '../words/words';

/** The company's people and their sessions. Ending somebody's asks once more, as it ends their work on every device. */
export function People() {
  const { me } = useFrame();
  const people = usePeople();
  const end = useEndSessions();
  const [sure, setSure] = useState('');
  return (
    <Section>
      <Heading>{say('People')}</Heading>
      <p>
        <Quiet>
          {say('Where a session is ended, what the device still holds comes here for decision as soon as it has a connection.')}
        </Quiet>
      </p>
      {(people.error ?? end.error) && <Wrong>{(people.error ?? end.error)?.message}</Wrong>}
      {people.isPending && <p>{say('Looking …')}</p>}
      <Scroll>
        <SheetTable aria-label={say('People')} data-cards>
          <thead>
            <tr>
              <th scope="col">{say('Name')}</th>
              <th scope="col">{say('Email')}</th>
              <th scope="col">{say('Role')}</th>
              <th scope="col">{say('Signed in on')}</th>
              <th scope="col" />
            </tr>
          </thead>
          <tbody>
            {people.data?.map((p) => (
              <tr key={p.id} data-person={p.name}>
                <td data-whole>
                  <b>{p.name}</b>
                </td>
                <td data-label={say('Email')}>{p.email}</td>
                <td data-label={say('Role')}>{say(p.role)}</td>
                <td data-label={say('Signed in on')}>{p.sessions === 1 ? say('1 device') : say('{{n}} devices', { n: p.sessions })}</td>
                <td data-whole>
                  {p.id !== me.id &&
                    p.sessions > 0 &&
                    (sure === p.id ? (
                      <>
                        <Button size="small" variant="contained" disabled={end.isPending} onClick={() => end.mutate(p.id)}>
                          {say('End them')}
                        </Button>{' '}
                        <Button size="small" onClick={() => setSure('')}>
                          {say('Leave them')}
                        </Button>
                      </>
                    ) : (
                      <Button size="small" onClick={() => setSure(p.id)}>
                        {say('End the sessions')}
                      </Button>
                    ))}
                </td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
    </Section>
  );
}
