import { moment, msg, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useDesk, useSendToDesk } from '../../api/job';
import { useRecord } from '../../api/records';
import { usePart } from '../../api/part';

import { Block, Boxed, Fields, Grow, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { LetterFacts } from '../../parts/LetterFacts';
import { Mark } from '../../parts/Mark';
import { Pick } from '../../parts/Pick';

const state = {
  waiting: ['unknown', msg('on its way')],
  received: ['caution', msg('received, not yet decided')],
  agreed: ['pass', msg('agreed')],
  booked: ['pass', msg('booked')],
  refused: ['fail', msg('refused')],
  lost: ['fail', msg('no longer known to the operator')],
} as const;

/**
 * What the network operator is told and asked, and what it answered: letters with every fact it wants, sent
 * once and kept. For the office.
 */
export function DeskLeaf({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const desk = useDesk(job.id);
  const send = useSendToDesk(job.id);
  const [kind, setKind] = useState('');
  const [note, setNote] = useState('');
  const sheet = desk.data;
  const letter = sheet?.letters.find((l) => l.kind === kind);
  if (desk.isPending) return <p>{say('Computing …')}</p>;
  return (
    <>
      <Section>
        <Heading aside={sheet && (sheet.connected ? 'connected' : say('no desk is connected'))}>
          {say('Notification or application')}
        </Heading>
        <Row role="group" aria-label={say('What about')} below="s" gap="s">
          {sheet?.kinds.map((k) => (
            <Button
              key={k.id}
              aria-pressed={k.id === kind}
              variant={k.id === kind ? 'contained' : 'outlined'}
              onClick={() => setKind(k.id === kind ? '' : k.id)}
            >
              {k.title}
            </Button>
          ))}
        </Row>
        {letter && (
          <Boxed data-letter={letter.kind} tone="copper">
            <b>{letter.title}</b>
            <LetterFacts letter={letter} label={say('What the operator asks for')} />
            {letter.missing.map((m) => (
              <P key={m} around="xs">
                {say('○ Still needed: {{m}}', { m })}
              </P>
            ))}
            <TextField
              sx={{ mt: 1 }}
              label={say('In your words, beside the facts')}
              value={note}
              onChange={(e) => setNote(e.target.value)}
              slotProps={{ htmlInput: { name: 'desk-note' } }}
            />
            <Row above="s">
              <Button
                variant="contained"
                disabled={letter.missing.length > 0 || !sheet?.connected || send.isPending || job.view.frozen}
                onClick={() =>
                  send.mutate(
                    { kind, note },
                    {
                      onSuccess: () => {
                        setKind('');
                        setNote('');
                      },
                    },
                  )
                }
              >
                {say('Send it')}
              </Button>
              <Quiet>{say('It is tried until the operator has it, and never sent twice.')}</Quiet>
            </Row>
            {send.error && <Wrong>{send.error.message}</Wrong>}
          </Boxed>
        )}
      </Section>
      <Section>
        <Heading>{say('Correspondence')}</Heading>
        {sheet?.messages.length === 0 && <p>{say('Nothing was sent from here yet.')}</p>}
        {sheet?.messages.map((m) => (
          <MessageRow key={m.id} job={job} j={j} m={m} />
        ))}
      </Section>
      <ByHand job={job} j={j} />
    </>
  );
}

function MessageRow({ job, j, m }: { job: Of<'JobView'>; j: Of<'Job'>; m: Of<'DeskMessage'> }) {
  const part = usePart(job, 'outage', j.outage);
  const [verdict, stands] = state[m.state as keyof typeof state] ?? ['unknown', m.state];
  const day = m.answer?.day;
  return (
    <Block data-message={m.kind} data-state={m.state} ruled pad="s">
      <Row align="start">
        <Mark verdict={verdict} label={say(stands)} />
        <Grow from={280}>
          <b>{m.letter.title}</b>: {say(stands)}
          {day && say(' for {{day}}', { day })}
          <br />
          <Quiet>
            {m.by}, {moment(m.at)}
            {m.answer && (
              <>
                {say(' · reference')} <b>{m.answer.reference}</b>, {m.answer.person}: {m.answer.message}
                {m.answer.simulated && say(' (simulated desk)')}
              </>
            )}
            {m.trouble &&
              say(' · {{trouble}}; tried {{tries}} time{{x}}, tried again by itself', {
                trouble: m.trouble,
                tries: m.tries,
                x: m.tries > 1 ? 's' : '',
              })}
          </Quiet>
        </Grow>
        {day && j.outage.bookedOn !== day && ['fuse-removal', 'isolator', 'connection-crew'].includes(m.kind) && (
          <Button disabled={part.frozen} onClick={() => part.save('bookedOn', day)}>
            {say('Record {{day}} as booked', { day })}
          </Button>
        )}
      </Row>
    </Block>
  );
}

/** A call by telephone, written down: who said what under which reference. */
function ByHand({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const record = useRecord(job.id);
  const blank = { path: '', reference: '', person: '', called: '', note: '' };
  const [said, setSaid] = useState(blank);
  const records = j.records.filter((r) => r.kind === 'operator').reverse();
  return (
    <Section>
      <Heading>{say('Calls and answers on record')}</Heading>
      {records.map((r) => (
        <P key={r.id} around="xs">
          {r.called ? r.called.replace('T', ' ') : moment(r.at)} · <b>{r.path}</b> · {r.reference} · {r.person} <Quiet>{r.note}</Quiet>
        </P>
      ))}
      <form
        aria-label={say('A call by telephone')}
        onSubmit={(e) => {
          e.preventDefault();
          record.mutate({ kind: 'operator', ...said }, { onSuccess: () => setSaid(blank) });
        }}
      >
        <Fields above="s">
          <Pick
            label={say('By telephone')}
            name="path"
            value={said.path}
            onChange={(path) => setSaid({ ...said, path })}
            options={['notified', 'applied', 'asked', 'reported', 'booked', 'agreed', 'refused'].map((id) => ({ id, name: id }))}
          />
          <TextField label={say('Reference')} value={said.reference} onChange={(e) => setSaid({ ...said, reference: e.target.value })} />
          <TextField label={say('Who answered')} value={said.person} onChange={(e) => setSaid({ ...said, person: e.target.value })} />
          <TextField
            label={say('When')}
            type="datetime-local"
            value={said.called}
            onChange={(e) => setSaid({ ...said, called: e.target.value })}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { name: 'called' } }}
          />
          <TextField label={say('What was said')} value={said.note} onChange={(e) => setSaid({ ...said, note: e.target.value })} />
        </Fields>
        <Button type="submit" sx={{ mt: 1 }} disabled={job.view.frozen || !said.path || !said.reference || !said.person || !said.called}>
          {say('Save the call')}
        </Button>
        {record.error && <Wrong>{record.error.message}</Wrong>}
      </form>
    </Section>
  );
}
