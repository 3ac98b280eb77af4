import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCompany } from '../../api/job';
import { useRecord } from '../../api/records';
import { Caution, Form, Quiet, Row, Wrong } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { Tick } from '../../parts/Tick';
import { say } from '../../words/words';
import { useClearance } from './useClearance';
import { WaitsList } from './WaitsList';
import { WhoIsClear } from './WhoIsClear';

/** The short deliberate energising that finds which pair is the feed: one record, from the guard posted to proved dead again. */
export function Guarded({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const instruments = useCompany().data?.instruments ?? [];
  const { guard, devices } = job.view.tests;
  const site = useClearance(job.id);
  const [device, setDevice] = useState('');
  const [seen, setSeen] = useState<Record<string, boolean>>({});
  const [text, setText] = useState({ person: '', place: '', value: '', instrument: '', note: '' });
  const allowed = job.view.may.includes('guarded');
  const field = (name: keyof typeof text, label: string, help?: string) => (
    <TextField
      label={label}
      helperText={help}
      value={text[name]}
      onChange={(e) => setText({ ...text, [name]: e.target.value })}
      slotProps={{ htmlInput: { name: `guarded-${name}`, ...(name === 'value' && { inputMode: 'decimal' }) } }}
    />
  );
  const volts = Number(text.value.replace(',', '.'));
  const ready =
    guard.asks.every((a) => seen[a.id]) &&
    text.person.trim() &&
    text.place.trim() &&
    text.instrument.trim() &&
    text.value.trim() &&
    volts >= 0 &&
    site.complete;
  const save = (passed: boolean) =>
    record.mutate(
      {
        kind: 'guarded',
        subject: device,
        person: text.person,
        place: text.place,
        value: volts,
        instrument: text.instrument,
        note: text.note,
        confirmed: guard.asks.map((a) => a.id),
        passed,
        ...(site.confirmed.length > 0 && { clear: site.confirmed }),
      },
      {
        onSuccess: () => {
          setSeen({});
          setText({ ...text, place: '', value: '', note: '' });
        },
      },
    );
  return (
    <Form onSubmit={(e) => e.preventDefault()}>
      <Caution>
        {say(
          'Last resort, once per pair: try the continuity of the pair first. Every proof in reach ends with it, and each place is proved dead anew.',
        )}
      </Caution>
      <Pick
        label={say('Which device is closed for the moment')}
        name="guardedDevice"
        value={device}
        onChange={setDevice}
        empty={say('not known: it may lead anywhere')}
        options={devices.map((d) => ({ id: d.id, name: d.name }))}
      />
      {device === '' && guard.waits.length > 0 && <WaitsList job={job.id} waits={guard.waits} />}
      {field('person', say('Who stands guard'), say('somebody else than you'))}
      {guard.asks.map((a) => (
        <Tick
          key={a.id}
          name={`guarded-${a.id}`}
          label={a.title}
          checked={!!seen[a.id]}
          onChange={(v) => setSeen({ ...seen, [a.id]: v })}
        />
      ))}
      <WhoIsClear people={site.people} clear={site.clear} onClear={site.setClear} />
      {field('place', say('Pair and place'), say('which pair was read, and where'))}
      {field('value', say('Read, V'))}
      <Pick
        label={say('Instrument')}
        name="guarded-instrument"
        value={text.instrument}
        onChange={(v) => setText({ ...text, instrument: v })}
        options={instruments.map((i) => ({ id: `${i.name} ${i.serial}`, name: `${i.name} ${i.serial}` }))}
      />
      {field('note', say('Note'))}
      <Row>
        <Button variant="contained" disabled={!ready || !allowed || record.isPending} onClick={() => save(true)}>
          {say('It is the feed')}
        </Button>
        <Button disabled={!ready || !allowed || record.isPending} onClick={() => save(false)}>
          {say('It is not')}
        </Button>
      </Row>
      {!allowed && <Quiet>{say('You are not authorised to permit it on this job. The owner grants it, under People.')}</Quiet>}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Form>
  );
}
