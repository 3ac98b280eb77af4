import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { Boxed, P, Quiet, SubHead, Wrong } from '../../parts/layout';
import { OneOf } from '../../parts/OneOf';
import { moment, say } from '../../words/words';

type What = 'retest' | 'search';

/** After a live test that failed: it is put right dead, or the supervisor orders in writing how it is energised once more. */
export function RetestOrder({ job, row }: { job: Of<'JobView'>; row: Of<'TestRow'> }) {
  const record = useRecord(job.id);
  const [what, setWhat] = useState<What>('retest');
  const [why, setWhy] = useState('');
  if (row.ordered)
    return (
      <P around="s" data-ordered={row.ordered.path}>
        {row.ordered.path === 'search' ? say('A guarded search for its fault is ordered') : say('A retest is ordered')}: {row.ordered.note}{' '}
        <Quiet>
          · {row.ordered.by}, {moment(row.ordered.at)}
        </Quiet>
      </P>
    );
  return (
    <Boxed data-order>
      <SubHead>{say('{{title}} failed', { title: row.title })}</SubHead>
      <P around="xs">{say('Switch off and put it right dead. It is energised once more without that only by an order in writing.')}</P>
      {job.view.may.includes('retest-order') ? (
        <>
          <OneOf
            label={say('What is ordered')}
            value={what}
            onChange={setWhat}
            choices={[
              { id: 'retest', name: say('A retest') },
              { id: 'search', name: say('A guarded search for its fault') },
            ]}
          />
          <TextField
            fullWidth
            label={say('Why, and what is to be looked at')}
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            slotProps={{ htmlInput: { name: 'orderWhy', maxLength: 400 } }}
          />
          <Button
            variant="contained"
            sx={{ mt: 1 }}
            disabled={!why.trim() || record.isPending || job.view.frozen}
            onClick={() => record.mutate({ kind: 'retest-order', subject: row.reading?.id ?? '', path: what, note: why })}
          >
            {say('Order it')}
          </Button>
        </>
      ) : (
        <Quiet block>{say('The supervisor orders a retest or a guarded search, here.')}</Quiet>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Boxed>
  );
}
