import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/job';
import { moment } from '../../parts/figure';
import { Heading, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';

/** What was left temporarily undone: it blocks the handover until somebody clears it. */
export function LooseEnds({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const [note, setNote] = useState('');
  return (
    <Section>
      <Heading>Left undone for now</Heading>
      {job.view.loose.length === 0 && <p style={{ margin: '4px 0' }}>Nothing is left undone.</p>}
      {job.view.loose.map((l) => (
        <Row key={l.id} style={{ borderBottom: '1px solid var(--rule)', padding: '6px 0' }}>
          <Mark verdict="caution" />
          <span style={{ flex: 1 }}>
            {l.note}{' '}
            <Quiet>
              · {l.by}, {moment(l.at)}
            </Quiet>
          </span>
          <Button disabled={job.view.frozen} onClick={() => record.mutate({ kind: 'loose-end', subject: l.id, done: true })}>
            Cleared
          </Button>
        </Row>
      ))}
      <Row className="no-print" style={{ marginTop: 12, alignItems: 'end' }}>
        <TextField
          sx={{ flex: 1, minWidth: 220 }}
          label="Unterminated, disconnected, cover off, temporary supply: what and where"
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { name: 'loose' } }}
        />
        <Button disabled={job.view.frozen} onClick={() => record.mutate({ kind: 'loose-end', note }, { onSuccess: () => setNote('') })}>
          Write it down
        </Button>
      </Row>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Section>
  );
}
