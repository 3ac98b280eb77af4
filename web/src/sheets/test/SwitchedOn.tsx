import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { Form, Quiet, Wrong } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { say } from '../../words/words';

/** Something that was switched on without permission: whoever saw it says so, and whatever rested on its being open ends. */
export function SwitchedOn({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const [device, setDevice] = useState('');
  const [note, setNote] = useState('');
  return (
    <Form
      onSubmit={(e) => {
        e.preventDefault();
        record.mutate({ kind: 'switched-on', subject: device, note }, { onSuccess: () => setNote('') });
      }}
    >
      <Quiet>{say('Get everyone clear first. Every isolation that it may have undone ends, and each place is proved dead anew.')}</Quiet>
      <Pick
        label={say('What was switched on')}
        name="strayDevice"
        value={device}
        onChange={setDevice}
        empty={say('nobody knows which')}
        options={job.view.tests.devices.map((d) => ({ id: d.id, name: d.name }))}
      />
      <TextField
        label={say('What happened')}
        value={note}
        onChange={(e) => setNote(e.target.value)}
        slotProps={{ htmlInput: { name: 'strayNote', maxLength: 400 } }}
      />
      <Button type="submit" variant="contained" disabled={!note.trim() || record.isPending}>
        {say('Record it')}
      </Button>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Form>
  );
}
