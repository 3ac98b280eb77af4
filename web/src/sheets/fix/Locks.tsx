import { styled } from '@mui/material/styles';
import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { useFrame } from '../../frame/Shell';

import { Grow, Quiet, Row, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';

const Lock = styled('div')({ borderTop: '1px solid var(--rule)', padding: '6px 0' });

/** Every lock that hangs, whoever's: nothing is energised while another person's does. Its owner takes it off. */
export function Locks({ job }: { job: Of<'JobView'> }) {
  const { me } = useFrame();
  const record = useRecord(job.id);
  const [forOther, setForOther] = useState<string>();
  const [note, setNote] = useState('');
  const [under, setUnder] = useState<string>(); // the isolation that one's own lock is hung under
  const [tag, setTag] = useState('');
  const mine = (l: Of<'Record'>) => (l.personId ? l.personId === me.id : l.by === me.name);
  const hangs = job.view.tests.locks.some(mine);
  const off = (subject: string, why = '') =>
    record.mutate({ kind: 'lock-off', subject, note: why }, { onSuccess: () => setForOther(undefined) });
  return (
    <>
      {job.view.tests.locks.map((l) => {
        const own = mine(l);
        return (
          <Lock key={l.id} data-lock={l.by}>
            <Row>
              <Mark verdict="caution" />
              <Grow from={200}>
                {own ? say('Your lock is in place') : say('Lock of {{by}} in place', { by: l.by })}: {l.lockTag}.{' '}
                <Quiet>
                  {l.source || say('a lock of their own, under the isolation')}, {moment(l.at)}
                </Quiet>
              </Grow>
              {own && (
                <Button disabled={record.isPending} onClick={() => off(l.id)}>
                  {say('My lock is off')}
                </Button>
              )}
              {!hangs && l.kind === 'isolation' && job.view.may.includes('lock') && (
                <Button onClick={() => setUnder(under === l.id ? undefined : l.id)}>{say('Hang my own lock')}</Button>
              )}
              {!own && job.view.supervises && (
                <Button onClick={() => setForOther(forOther === l.id ? undefined : l.id)}>{say('Its owner is gone')}</Button>
              )}
            </Row>
            {under === l.id && (
              <Row above="s" align="end">
                <TextField
                  sx={{ flex: '1 1 240px' }}
                  label={say('Lock and tag')}
                  value={tag}
                  onChange={(e) => setTag(e.target.value)}
                  helperText={say(
                    'No permission to energise is given while it hangs. You take it off; the supervisor only with the reason on record.',
                  )}
                  slotProps={{ htmlInput: { name: 'ownLock' } }}
                />
                <Button
                  variant="contained"
                  disabled={!tag.trim() || record.isPending}
                  onClick={() => record.mutate({ kind: 'lock', subject: l.id, lockTag: tag }, { onSuccess: () => setUnder(undefined) })}
                >
                  {say('It hangs')}
                </Button>
              </Row>
            )}
            {forOther === l.id && (
              <Row above="s" align="end">
                <TextField
                  sx={{ flex: '1 1 240px' }}
                  label={say('How it is known that {{by}} is off the site and told', { by: l.by })}
                  value={note}
                  onChange={(e) => setNote(e.target.value)}
                  helperText={say('And that nobody works behind the lock. It goes on record in your name.')}
                  slotProps={{ htmlInput: { name: 'lockNote' } }}
                />
                <Button variant="contained" disabled={!note.trim() || record.isPending} onClick={() => off(l.id, note)}>
                  {say('Remove it')}
                </Button>
              </Row>
            )}
          </Lock>
        );
      })}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </>
  );
}
