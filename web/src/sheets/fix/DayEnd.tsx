import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { useFrame } from '../../frame/Shell';
import { Details, P, Quiet, Row, Wrong } from '../../parts/layout';
import { madeBy } from '../../parts/mine';
import { moment, say } from '../../words/words';

/** Leaving the house for the day: not while people are at risk in it, and with a word on one's own lock that stays. */
export function DayEnd({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const { me } = useFrame();
  const [note, setNote] = useState('');
  if (!job.view.may.includes('day-end')) return null;
  const today = new Date().toDateString();
  const left = [...(job.view.job?.records ?? [])]
    .reverse()
    .find((r) => r.kind === 'day-end' && madeBy(r, me) && new Date(r.at).toDateString() === today);
  const ends = (job.view.job?.records ?? []).filter((r) => r.kind === 'day-end' && r.note).slice(-3);
  const mine = job.view.tests.locks.filter((l) => madeBy(l, me));
  const risks = job.view.left.filter((l) => l.danger);
  return (
    <Details className="no-print" data-day-end>
      <summary>{say('End of the day')}</summary>
      <P around="xs">
        {risks.length > 0 && say('Dangers not made safe: {{n}}.', { n: risks.length })}{' '}
        {say('Left as they are: {{n}}. Locks of yours in place: {{locks}}.', { n: job.view.loose.length, locks: mine.length })}
      </P>
      {ends.map((r) => (
        <Quiet key={r.id} block data-left-house>
          {r.by}, {moment(r.at)}: {r.note}
        </Quiet>
      ))}
      {left && <Quiet block>{say('You left at {{at}}.', { at: moment(left.at) })}</Quiet>}
      <Row align="end">
        <TextField
          sx={{ flex: '1 1 200px' }}
          label={mine.length ? say('Why your lock stays, and who knows of it') : say('For whoever comes next')}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { name: 'dayEnd', maxLength: 400 } }}
        />
        <Button
          disabled={record.isPending || (mine.length > 0 && !note.trim())}
          onClick={() => record.mutate({ kind: 'day-end', note }, { onSuccess: () => setNote('') })}
        >
          {say('I leave the house')}
        </Button>
      </Row>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Details>
  );
}
