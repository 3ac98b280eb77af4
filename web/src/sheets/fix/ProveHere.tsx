import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { Boxed, P, Row, Wrong } from '../../parts/layout';
import { say } from '../../words/words';
import { allRead, DeadReadings, nothingTyped, proofOf } from './DeadReadings';
import { servesBefore, servesSays, TesterFields, TesterStep } from './TesterFields';
import { useTester } from './useTester';

/** A further place read under the isolation that is in force: work there opens when every pair was found dead. */
export function ProveHere({ job, place }: { job: Of<'JobView'>; place: Of<'WorkPlace'> }) {
  const record = useRecord(job.id);
  const { kit, setKit, remember } = useTester();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState(nothingTyped);
  const [before, setBefore] = useState(false);
  const [after, setAfter] = useState(false);
  const under = job.view.tests.isolation;
  const serves = servesBefore(job, kit);
  if (!under) return null;
  if (!open)
    return (
      <Button data-prove={place.id} onClick={() => setOpen(true)}>
        {say('Prove it dead here')}
      </Button>
    );
  const save = () => {
    remember();
    record.mutate(
      {
        kind: 'proved-dead',
        subject: under.id,
        tester: kit.tester,
        testerKind: kit.testerKind,
        proofs: [proofOf(place, typed)],
        provedBefore: before,
        provedAfter: after,
        ...(serves && !before && { serves: serves.id }),
      },
      { onSuccess: () => setOpen(false) },
    );
  };
  return (
    <Boxed>
      <TesterFields kit={kit} onChange={setKit} />
      {serves && !before ? (
        <P around="xs">{servesSays(serves)}</P>
      ) : (
        <TesterStep name="provedBefore" label={say('Tester proved on a known source')} checked={before} onChange={setBefore} />
      )}
      <DeadReadings place={place} typed={typed} onChange={setTyped} />
      <TesterStep
        name="provedAfter"
        label={say('Tester proved again')}
        checked={after}
        disabled={!allRead(place, typed)}
        onChange={setAfter}
      />
      {record.error && <Wrong>{record.error.message}</Wrong>}
      <Row>
        <Button variant="contained" disabled={record.isPending || !allRead(place, typed)} onClick={save}>
          {say('Record')}
        </Button>
        <Button onClick={() => setOpen(false)}>{say('Cancel')}</Button>
      </Row>
    </Boxed>
  );
}
