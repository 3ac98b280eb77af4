import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useKept, useRecord } from '../../api/records';
import { Boxed, Caution, Fields, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { moment, say } from '../../words/words';
import { Locks } from './Locks';
import { NewIsolation } from './NewIsolation';

/** What is isolated: the lock board with what each isolation comes to, and the record of another. At the board, one hand free. */
export function IsolationPanel({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const [open, setOpen] = useState<'' | 'new' | 'correct' | 'withdraw'>('');
  const [why, setWhy] = useState('');
  const mine = job.view.tests.isolations.find((i) => i.mine);
  const inForce = job.view.tests.isolation;
  const waits = useKept(job.id)
    .kept.filter((k) => !k.refused)
    .flatMap(({ record }) => (record.kind === 'isolation' ? [record] : []))
    .at(-1);
  const done = () => {
    setOpen('');
    setWhy('');
  };
  const names = new Map(job.view.tests.devices.map((d) => [d.id, d.name]));
  return (
    <Section aria-label={say('Isolation')}>
      <Heading>{say('Isolation')}</Heading>
      {waits && (
        <P around="xs" data-kept-isolation>
          <Mark verdict="unknown" />{' '}
          {say('Isolation recorded here, {{at}}: {{source}}; {{lockTag}}. It waits for a connection and is not judged yet.', {
            at: waits.sent ? moment(waits.sent.occurredAt) : '',
            source: waits.opens.map((o) => names.get(o.device) ?? o.device).join(', '),
            lockTag: waits.lockTag ?? '',
          })}
        </P>
      )}
      {!inForce && !waits && (
        <P around="xs">
          <Mark verdict="unknown" />{' '}
          {say(
            'No isolation of yours today. Work on conductors stays closed until there is one and every pair was read dead where you ' +
              'work; it holds for you, and until the end of the day or until something is energised.',
          )}
        </P>
      )}
      <Locks job={job} />
      {!open && (
        <Row className="no-print">
          <Button variant={inForce ? 'outlined' : 'contained'} data-isolate onClick={() => setOpen('new')}>
            {inForce ? say('Isolate more') : say('Record an isolation')}
          </Button>
          {mine && <Button onClick={() => setOpen('correct')}>{say('Correct it')}</Button>}
          {mine && <Button onClick={() => setOpen('withdraw')}>{say('Withdraw it')}</Button>}
        </Row>
      )}
      {!job.view.holds.includes('isolate') && (
        <Quiet>
          {' '}
          {say('You are not authorised to isolate on this job: what you switch off and lock goes on record, and opens no work.')}
        </Quiet>
      )}
      {open === 'withdraw' && mine && (
        <Boxed>
          <Caution>
            {say(
              'From now on it proves nothing: stop what is done under it, and treat everything behind it as live. ' +
                'The lock stays on record until it is taken off.',
            )}
          </Caution>
          <Fields>
            <TextField
              label={say('Why it proves nothing')}
              value={why}
              onChange={(e) => setWhy(e.target.value)}
              slotProps={{ htmlInput: { name: 'why' } }}
            />
          </Fields>
          {record.error && <Wrong>{record.error.message}</Wrong>}
          <Row>
            <Button
              variant="contained"
              disabled={!why.trim() || record.isPending}
              onClick={() => record.mutate({ kind: 'withdrawal', subject: mine.record.id, note: why }, { onSuccess: done })}
            >
              {say('Withdraw the isolation')}
            </Button>
            <Button onClick={done}>{say('Cancel')}</Button>
          </Row>
        </Boxed>
      )}
      {(open === 'new' || open === 'correct') && (
        <NewIsolation job={job} corrects={open === 'correct' ? mine?.record : undefined} onDone={done} />
      )}
    </Section>
  );
}
