import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCase, useCompany, useTerms } from '../../api/job';
import { useRecord } from '../../api/records';
import { figure, parseFigure } from '../../parts/figure';
import { Fields, Heading, Quiet, Scroll, Section, SheetTable, Td, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Pick } from '../../parts/Pick';

const atPlace = '-'; // no circuit has this id

/** Leakage and voltage read on the survey: typed by a person, never filled in. */
export function Readings({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const terms = useTerms().data?.survey;
  const company = useCompany().data;
  const record = useRecord(job.id);
  const [subject, setSubject] = useState('');
  const [value, setValue] = useState('');
  const [place, setPlace] = useState('');
  const [circuit, setCircuit] = useState('');
  const [instrument, setInstrument] = useState('');
  const kind = terms?.readings.find((r) => r.id === subject);
  const readings = j.records.filter((r) => r.kind === 'survey-reading');
  const number = parseFigure(value);
  const sheet = useCase(job.id).data;
  const judged = (r: Of<'Record'>) => sheet?.readings.find((x) => x.id === r.id);
  return (
    <Section>
      <Heading>{say('Readings of the survey')}</Heading>
      {readings.length > 0 && (
        <Scroll>
          <SheetTable aria-label={say('Survey readings')}>
            <tbody>
              {readings.map((r) => (
                <tr key={r.id}>
                  <Td width={20}>
                    <Mark verdict={judged(r)?.verdict ?? 'unknown'} />
                  </Td>
                  <td>{terms?.readings.find((x) => x.id === r.subject)?.name ?? r.subject}</td>
                  <td>{[j.circuits.find((k) => k.id === r.circuit)?.name, r.place].filter(Boolean).join(', ')}</td>
                  <td className="num">
                    <b>{figure(r.value, r.unit)}</b>
                  </td>
                  <td>
                    <Quiet>
                      {r.instrument} · {r.by}, {moment(r.at)} {judged(r)?.summary && `· ${judged(r)?.summary}`}
                    </Quiet>
                  </td>
                </tr>
              ))}
            </tbody>
          </SheetTable>
        </Scroll>
      )}
      <form
        aria-label={say('Survey reading')}
        onSubmit={(e) => {
          e.preventDefault();
          const meter = company?.instruments.find((i) => i.name === instrument);
          record.mutate(
            {
              kind: 'survey-reading',
              subject,
              value: number ?? null,
              unit: kind?.unit,
              place,
              circuit,
              instrument,
              calibrated: meter?.calibrated,
            },
            { onSuccess: () => setValue('') },
          );
        }}
      >
        <Fields above="s">
          <Pick
            label={say('Reading')}
            name="reading"
            value={subject}
            onChange={setSubject}
            options={(terms?.readings ?? []).map((r) => ({ id: r.id, name: r.name }))}
          />
          <TextField
            label={`Figure${kind ? `, ${kind.unit}` : ''}`}
            value={value}
            error={number === undefined}
            helperText={number === undefined ? say('“{{value}}” is not a number', { value }) : undefined}
            onChange={(e) => setValue(e.target.value)}
            slotProps={{ htmlInput: { inputMode: 'decimal', name: 'figure' } }}
          />
          <Pick
            label={say('On the circuit')}
            name="reading-circuit"
            value={circuit || atPlace}
            onChange={(id) => setCircuit(id === atPlace ? '' : id)}
            options={[{ id: atPlace, name: say('none: at the place beside') }, ...j.circuits.map((k) => ({ id: k.id, name: k.name }))]}
          />
          <TextField
            label={say('Where')}
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            slotProps={{ htmlInput: { name: 'where' } }}
          />
          <Pick
            label={say('Instrument')}
            name="instrument"
            value={instrument}
            onChange={setInstrument}
            options={(company?.instruments ?? []).map((i) => ({ id: i.name, name: i.name }))}
          />
        </Fields>
        <Button type="submit" sx={{ mt: 1 }} disabled={job.view.frozen || typeof number !== 'number'}>
          {say('Save the reading')}
        </Button>
        {record.error && <Wrong>{record.error.message}</Wrong>}
      </form>
    </Section>
  );
}
