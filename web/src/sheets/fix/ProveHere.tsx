import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { Boxed, Row, Wrong } from '../../parts/layout';
import { say } from '../../words/words';
import { Sequence, useSequence } from './Sequence';

/** A further place read under the isolation that is in force: work there opens when every pair was found dead. */
export function ProveHere({ job, place }: { job: Of<'JobView'>; place: Of<'WorkPlace'> }) {
  const record = useRecord(job.id);
  const proof = useSequence(job, place);
  const [open, setOpen] = useState(false);
  const under = job.view.tests.isolation;
  if (!under) return null;
  if (!open)
    return (
      <Button data-prove={place.id} onClick={() => setOpen(true)}>
        {say('Prove it dead here')}
      </Button>
    );
  const save = () => {
    proof.remember();
    record.mutate(
      {
        kind: 'proved-dead',
        subject: under.id,
        tester: proof.kit.tester,
        testerKind: proof.kit.testerKind,
        proofs: proof.proofs,
        ...proof.tester,
      },
      { onSuccess: () => setOpen(false) },
    );
  };
  return (
    <Boxed>
      <Sequence s={proof} />
      {record.error && <Wrong>{record.error.message}</Wrong>}
      <Row>
        <Button variant="contained" disabled={record.isPending || !proof.whole} onClick={save}>
          {say('Record')}
        </Button>
        <Button onClick={() => setOpen(false)}>{say('Cancel')}</Button>
      </Row>
    </Boxed>
  );
}
