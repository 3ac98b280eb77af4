import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { membersOf, type NewRecord } from '../api/records';
import { msg, say } from '../words/words';
import { parseFigure } from './figure';
import { Block, Fields, Row } from './layout';

// What somebody typed into a record, by the member that keeps it.
const typed = {
  value: msg('Reading'),
  note: msg('Note'),
  couldNot: msg('Why it could not be tested'),
  source: msg('What was switched off'),
  lockTag: msg('Lock and tag'),
  tester: msg('Tester'),
  stillLive: msg('What stays live'),
  instrument: msg('Instrument'),
  person: msg('Who it was said by'),
  reference: msg('Reference'),
} as const;
type Member = keyof typeof typed;

/** Mends what was recorded and not taken: what was typed is put right and sent again, under the time at which it was made. */
export function MendRecord({ record, onSend, onCancel }: { record: NewRecord; onSend: (r: NewRecord) => void; onCancel: () => void }) {
  const has = membersOf(record);
  const members = (Object.keys(typed) as Member[]).filter((m) => has[m] !== undefined && has[m] !== null);
  const [text, setText] = useState(() => Object.fromEntries(members.map((m) => [m, String(has[m])])) as Record<Member, string>);
  const figure = members.includes('value') ? parseFigure(text.value) : null;
  const send = () => onSend({ ...record, ...text, ...(members.includes('value') && { value: figure }) } as NewRecord);
  return (
    <Block above="s" data-mend={record.kind}>
      <Fields>
        {members.map((m) => (
          <TextField
            key={m}
            label={say(typed[m])}
            value={text[m]}
            error={m === 'value' && figure === undefined}
            onChange={(e) => setText({ ...text, [m]: e.target.value })}
            slotProps={{ htmlInput: { name: `mend-${m}`, inputMode: m === 'value' ? 'decimal' : undefined } }}
          />
        ))}
      </Fields>
      <Row>
        <Button variant="contained" disabled={figure === undefined} onClick={send}>
          {say('Send it again')}
        </Button>
        <Button onClick={onCancel}>{say('Cancel')}</Button>
      </Row>
    </Block>
  );
}
