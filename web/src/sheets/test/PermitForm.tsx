import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useConnection } from '../../api/reading';
import { useRecord } from '../../api/records';
import { Caution, Details, Form, Quiet, Wrong } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { Tick } from '../../parts/Tick';
import { moment, say } from '../../words/words';
import { useClearance } from './useClearance';
import { WhoIsClear } from './WhoIsClear';

const guards = () => [
  { id: 'person', name: say('by somebody who stands there') },
  { id: 'barrier', name: say('by barriers and a notice') },
  { id: 'room', name: say('by a locked door') },
];

interface PermitFormProps {
  job: Of<'JobView'>;
  part: Of<'EnergisePart'>;
  use: Of<'EnergiseFor'>;
}

/** The permission for one closing: what was seen, who closes it and until when, and the locks as they are counted. */
export function PermitForm({ job, part, use }: PermitFormProps) {
  const record = useRecord(job.id);
  const site = useClearance(job.id);
  const [seen, setSeen] = useState<Record<string, boolean>>({});
  const [counted, setCounted] = useState('');
  const [person, setPerson] = useState('');
  const [until, setUntil] = useState('');
  const [guarding, setGuarding] = useState('');
  const [bare, setBare] = useState<Record<string, boolean>>({});
  const tests = use.use === 'test';
  const allowed = job.view.may.includes('energise');
  const ends = until ? new Date(`${new Date().toLocaleDateString('sv')}T${until}`).toISOString() : undefined;
  const { down, asOf } = useConnection();
  const ready = use.asks.every((a) => seen[a.id]) && /^\d+$/.test(counted.trim()) && site.complete && (!tests || !!guarding);
  if (down)
    return (
      <Wrong data-not-permitted>
        {say('Not permitted: there is no connection, and locks of others are not seen since {{asOf}}.', { asOf: asOf ? moment(asOf) : '' })}
      </Wrong>
    );
  return (
    <Form
      onSubmit={(e) => {
        e.preventDefault();
        record.mutate({
          kind: 'energise',
          use: use.use as Of<'Record'>['use'],
          closes: part.closes,
          confirmed: use.asks.map((a) => a.id),
          counted: Number(counted),
          person: person.trim(),
          ...(tests && { guarding: guarding as Of<'Record'>['guarding'], bare: part.covers.filter((c) => bare[c.id]).map((c) => c.id) }),
          ...(site.confirmed.length > 0 && { clear: site.confirmed }),
          ...(ends && { until: ends }),
        });
      }}
    >
      <Caution>{say('Each is seen by the person who permits it, now, and goes on record.')}</Caution>
      <div>
        {use.asks.map((a) => (
          <Tick
            key={a.id}
            name={`seen-${a.id}`}
            label={a.title}
            checked={!!seen[a.id]}
            disabled={!allowed}
            onChange={(v) => setSeen({ ...seen, [a.id]: v })}
          />
        ))}
      </div>
      {tests && (
        <>
          <Pick label={say('How people are kept out')} name="guarding" value={guarding} onChange={setGuarding} options={guards()} />
          <Details>
            <summary>{say('Covers that stay off while it is tested: {{n}}', { n: Object.values(bare).filter(Boolean).length })}</summary>
            {part.covers.map((c) => (
              <Tick
                key={c.id}
                name={`bare-${c.id}`}
                label={c.name}
                checked={!!bare[c.id]}
                disabled={!allowed}
                onChange={(v) => setBare({ ...bare, [c.id]: v })}
              />
            ))}
          </Details>
        </>
      )}
      <WhoIsClear people={site.people} clear={site.clear} onClear={site.setClear} />
      <TextField
        label={say('Locks and tags counted where they hang')}
        value={counted}
        disabled={!allowed}
        helperText={say('one on each device that is kept open; count them at the board, the number has to be that of the record')}
        onChange={(e) => setCounted(e.target.value)}
        slotProps={{ htmlInput: { name: 'counted', inputMode: 'numeric', autoComplete: 'off' } }}
      />
      <TextField
        label={say('Who closes it')}
        value={person}
        disabled={!allowed}
        helperText={say('by name; empty where it is you')}
        onChange={(e) => setPerson(e.target.value)}
        slotProps={{ htmlInput: { name: 'closer', maxLength: 400 } }}
      />
      {tests && (
        <TextField
          type="time"
          label={say('Ends at')}
          value={until}
          disabled={!allowed}
          helperText={say('today; empty until the end of the day')}
          onChange={(e) => setUntil(e.target.value)}
          slotProps={{ htmlInput: { name: 'until' }, inputLabel: { shrink: true } }}
        />
      )}
      <Button type="submit" variant="contained" disabled={!ready || !allowed || record.isPending} data-permit={use.use}>
        {say('Permit')}
      </Button>
      {!allowed && <Quiet>{say('You are not authorised to permit it on this job. The owner grants it, under People.')}</Quiet>}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Form>
  );
}
