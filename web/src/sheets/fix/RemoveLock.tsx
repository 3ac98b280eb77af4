import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { Boxed, Caution, Fields, Row, Wrong } from '../../parts/layout';
import { say } from '../../words/words';

/** The procedure by which the supervisor takes off the lock of somebody who is gone. */
export function RemoveLock({ job, lock, onDone }: { job: Of<'JobView'>; lock: Of<'Record'>; onDone: () => void }) {
  const record = useRecord(job.id);
  const [text, setText] = useState({ note: '', reached: '', walked: '' });
  const box = (name: keyof typeof text, label: string) => (
    <TextField
      label={label}
      value={text[name]}
      onChange={(e) => setText({ ...text, [name]: e.target.value })}
      slotProps={{ htmlInput: { name } }}
    />
  );
  return (
    <Boxed>
      <Caution>{say('It releases nothing: what is behind the lock stays closed for its owner until they have isolated anew.')}</Caution>
      <Fields>
        {box('note', say('How it is known that {{by}} is off the site', { by: lock.by }))}
        {box('reached', say('How {{by}} was reached, or how that was tried', { by: lock.by }))}
        {box('walked', say('Who walked all that lies behind the lock and found it clear'))}
      </Fields>
      {record.error && <Wrong>{record.error.message}</Wrong>}
      <Row>
        <Button
          variant="contained"
          disabled={Object.values(text).some((v) => !v.trim()) || record.isPending}
          onClick={() => record.mutate({ kind: 'lock-off', subject: lock.id, ...text }, { onSuccess: onDone })}
        >
          {say('Remove it')}
        </Button>
        <Button onClick={onDone}>{say('Cancel')}</Button>
      </Row>
    </Boxed>
  );
}
