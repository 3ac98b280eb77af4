import { say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { keptOf, useKept, useRecord } from '../../api/records';
import { Quiet, Wrong } from '../../parts/layout';

/** Ticks a step or takes it back. One that a picture ticks asks why there is none; one that others do, by what it is known that they did. */
export function TickButton({ job, task: t, held = false }: { job: Of<'JobView'>; task: Of<'Task'>; held?: boolean }) {
  const record = useRecord(job.id);
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState('');
  const [person, setPerson] = useState('');
  const pictured = (job.view.job?.records ?? []).some((r) => r.kind === 'photo' && r.subject === t.id && !r.done);
  const tick = (note = '') =>
    record.mutate(
      { kind: 'tick', subject: t.id, circuit: t.circuit, done: !t.done, ...(note && { note }), ...(!t.done && person && { person }) },
      { onSuccess: () => setAsking(false) },
    );
  const asks = !!t.others || (t.photo && !pictured);
  const { kept } = useKept(job.id);
  const waits = !!keptOf(kept, 'tick', t.id);
  // What closes it may be an isolation of one's own that waits for a connection.
  const isolated = t.isolation && kept.some((k) => !k.refused && k.record.kind === 'isolation');
  const closed = held || job.view.frozen || (!t.done && !!t.closed && !isolated) || record.isPending || waits;
  return (
    <div style={{ display: 'grid', gap: 6, justifyItems: 'end', maxWidth: asking ? 260 : undefined }}>
      {asking && t.others && (
        <TextField
          autoFocus
          label={say('Who of the {{others}} did it', { others: t.others })}
          value={person}
          onChange={(e) => setPerson(e.target.value)}
          slotProps={{ htmlInput: { name: 'tickWho', maxLength: 400 } }}
        />
      )}
      {asking && (
        <TextField
          autoFocus={!t.others}
          label={t.others ? say('By what you know that the {{others}} did it', { others: t.others }) : say('Why there is no picture')}
          helperText={t.others ? say('a number, a paper, a call and when') : undefined}
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          slotProps={{ htmlInput: { name: 'tickNote', maxLength: 400 } }}
        />
      )}
      <Button
        data-tick={t.id}
        variant={t.done || t.closed ? 'outlined' : 'contained'}
        disabled={closed || (asking && !(why.trim() && (!t.others || person.trim())))}
        onClick={() => (t.done ? tick() : asks && !asking ? setAsking(true) : tick(asking ? why : ''))}
        sx={{ minHeight: 44, minWidth: 74 }}
      >
        {t.done ? say('Undo') : say('Done')}
      </Button>
      {waits && <Quiet data-kept-tick>{say('waits for a connection')}</Quiet>}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </div>
  );
}
