import { styled } from '@mui/material/styles';
import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { useFrame } from '../../frame/Shell';

import { Caution, Grow, Quiet, Row, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { madeBy } from '../../parts/mine';
import { sentLater } from '../../parts/sentLater';
import { RemoveLock } from './RemoveLock';

const Lock = styled('div')({ borderTop: '1px solid var(--rule)', padding: '6px 0' });

/** Every lock that hangs, whoever's, with what it makes dead: nothing is energised while another person's does. Its owner takes it off. */
export function Locks({ job }: { job: Of<'JobView'> }) {
  const { me } = useFrame();
  const record = useRecord(job.id);
  const [forOther, setForOther] = useState<string>();
  const [under, setUnder] = useState<string>(); // the isolation that one's own lock is hung under
  const [tag, setTag] = useState('');
  const { locks, isolations, places } = job.view.tests;
  const placed = new Map(places.map((p) => [p.id, p.name]));
  return (
    <>
      {locks.map((l) => {
        const own = madeBy(l, me);
        const i = isolations.find((x) => x.record.id === l.id);
        const dead = i && i.flaws.length === 0;
        return (
          <Lock key={l.id} data-lock={l.by}>
            <Row>
              <Mark verdict={dead ? 'pass' : 'caution'} />
              <Grow from={200}>
                {own ? say('Your lock is in place') : say('Lock of {{by}} in place', { by: l.by })}: {l.lockTag}.{' '}
                <Quiet>
                  {i
                    ? say('Opened: {{opened}}', { opened: i.opened.join(', ') || l.source })
                    : say('a lock of their own, under the isolation')}
                  , {moment(l.at)} {sentLater(l)}
                </Quiet>
                {i && dead && (
                  <Quiet block data-proved>
                    {say('Read and found dead: {{places}}.', { places: i.proved.map((p) => placed.get(p) ?? p).join(', ') })}{' '}
                    <b>{say('Stays live: {{stillLive}}.', { stillLive: l.stillLive || say('not recorded') })}</b>
                  </Quiet>
                )}
              </Grow>
              {own && (
                <Button disabled={record.isPending} onClick={() => record.mutate({ kind: 'lock-off', subject: l.id })}>
                  {say('My lock is off')}
                </Button>
              )}
              {!own && i && !i.under && job.view.may.includes('lock') && (
                <Button onClick={() => setUnder(under === l.id ? undefined : l.id)}>{say('Hang my own lock')}</Button>
              )}
              {!own && job.view.supervises && (
                <Button onClick={() => setForOther(forOther === l.id ? undefined : l.id)}>{say('Its owner is gone')}</Button>
              )}
            </Row>
            {i && !dead && (
              <Caution data-flaws>
                {say('It makes nothing dead for work:')} {i.flaws.join(' ')}
              </Caution>
            )}
            {i?.mine && i.closes && (
              <Row>
                <Button
                  variant="contained"
                  disabled={record.isPending}
                  onClick={() => record.mutate({ kind: 'tester-proof', tester: l.tester, passed: true })}
                >
                  {say('The tester shows the known source')}
                </Button>
                <Button
                  disabled={record.isPending}
                  onClick={() => record.mutate({ kind: 'tester-proof', tester: l.tester, passed: false })}
                >
                  {say('It does not')}
                </Button>
              </Row>
            )}
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
            {forOther === l.id && <RemoveLock job={job} lock={l} onDone={() => setForOther(undefined)} />}
          </Lock>
        );
      })}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </>
  );
}
