import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useGoods, useMerchant, useReadNote } from '../../api/goods';
import { figure } from '../../parts/figure';
import { Block, Caution, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';
import { CountNote } from './CountNote';

/** What came: a note is read whole, counted by somebody, and booked in; what it lacks is claimed. */
export function Deliveries({ job }: { job: Of<'JobView'> }) {
  const read = useReadNote(job.id);
  const [text, setText] = useState('');
  const { data } = useGoods(job.id);
  const [wired, setWired] = useState<Of<'GoodsNote'>>();
  const open = (file: Blob | undefined) => file && read.mutate(file);
  return (
    <>
      <Section>
        <Heading>{say('Book in a delivery')}</Heading>
        <Caution>{say('Count it before anybody travels: each reel by the marks at both its ends, each box by what is in it.')}</Caution>
        {wired && <CountNote key={wired.number} job={job} note={wired} onDone={() => setWired(undefined)} />}
        {!wired && !read.data && <OverTheWire job={job} onCount={setWired} />}
        {!wired && !read.data && (
          <Block
            onDragOver={(e) => e.preventDefault()}
            onDrop={(e) => {
              e.preventDefault();
              open(e.dataTransfer.files[0]);
            }}
          >
            <TextField
              fullWidth
              multiline
              minRows={4}
              maxRows={12}
              label={say('Paste the delivery note')}
              helperText={say(
                'a table with the columns product or name, count, unit, lengths and remark, or the merchant’s file; or drop the file here',
              )}
              value={text}
              onChange={(e) => setText(e.target.value)}
              slotProps={{ htmlInput: { name: 'deliveryNote', spellCheck: false } }}
            />
            <Row above="s">
              <Button
                variant="contained"
                disabled={!text.trim() || read.isPending || job.view.frozen}
                onClick={() => open(new Blob([text]))}
              >
                {say('Read it')}
              </Button>
              <Button component="label" disabled={job.view.frozen}>
                {say('Choose a file')}
                <input type="file" accept=".csv,.json,.txt,text/csv,application/json" hidden onChange={(e) => open(e.target.files?.[0])} />
              </Button>
            </Row>
          </Block>
        )}
        {read.error && <NotRead error={read.error} />}
        {read.data && (
          <CountNote
            job={job}
            note={read.data}
            onDone={() => {
              read.reset();
              setText('');
            }}
          />
        )}
      </Section>
      <Came job={job} claims={data?.claims ?? []} />
    </>
  );
}

/** The delivery notes that the merchant has sent and that nobody has counted yet. */
function OverTheWire({ job, onCount }: { job: Of<'JobView'>; onCount: (note: Of<'GoodsNote'>) => void }) {
  const { data } = useMerchant(job);
  return data?.notes.map((n, i) => (
    <Block key={i} ruled pad="s" below="s" data-wired={n.note?.number ?? ''}>
      {n.note ? (
        <Row>
          <Mark verdict={n.note.lines.some((l) => l.trouble) ? 'fail' : 'unknown'} label={say('not counted')} />
          <span>
            {say('{{merchant}} has sent note {{number}} of {{on}}: lines {{n}}', {
              merchant: n.note.merchant,
              number: n.note.number,
              on: n.note.on,
              n: n.note.lines.length,
            })}
          </span>
          <Button variant="contained" disabled={job.view.frozen} onClick={() => n.note && onCount(n.note)}>
            {say('Count it')}
          </Button>
        </Row>
      ) : (
        <Wrong>{n.unread}</Wrong>
      )}
      {n.note?.lines.map((l) => l.trouble && <P key={l.product}>{l.trouble}</P>)}
    </Block>
  ));
}

/** Why a note is not read: each cell with what would be accepted. Nothing of it was taken. */
function NotRead({ error }: { error: Error }) {
  const fields = 'problem' in error ? ((error.problem as Of<'Problem'>).fields ?? []) : [];
  return (
    <Block above="s" role="alert">
      <Wrong>{say('Nothing was read, as not all of it can be:')}</Wrong>
      {fields.length === 0 && <P around="xs">{error.message}</P>}
      {fields.map((f) => (
        <P key={f.field} around="xs">
          <b>{f.field}</b>: “{f.value}”. <Quiet>{say('Accepted: {{accept}}', { accept: f.accept })}</Quiet>
        </P>
      ))}
    </Block>
  );
}

/** The deliveries that are booked in, the newest first, each with what is claimed of it. */
function Came({ job, claims }: { job: Of<'JobView'>; claims: Of<'GoodsClaim'>[] }) {
  const name = (key: string) => job.view.take.lines.find((l) => l.key === key);
  return (
    <Section>
      <Heading>{say('Booked in')}</Heading>
      {claims.length === 0 && <Quiet>{say('Nothing yet.')}</Quiet>}
      {claims.map(({ delivery: d, text }) => (
        <Block key={d.id} ruled pad="s" data-delivery={d.number}>
          <b>{d.number || say('without a number')}</b> {d.merchant} {d.on} · {say('counted by {{countedBy}}', { countedBy: d.countedBy })}
          {d.lines.map((l) => {
            const unit = name(l.product)?.unit;
            return (
              <Row key={l.product} gap="xs">
                <Mark verdict={l.counted < l.said ? 'fail' : 'pass'} label={l.counted < l.said ? say('short') : say('as the note says')} />
                {l.name}: {figure(l.counted, unit)}
                {l.counted !== l.said && ` ${say('of {{said}}', { said: figure(l.said, unit) })}`}
                {l.lengths && <Quiet>{l.lengths}</Quiet>}
                {l.remark && <Quiet>{l.remark}</Quiet>}
              </Row>
            );
          })}
          {text && <Claim text={text} />}
        </Block>
      ))}
    </Section>
  );
}

/** The claim to the merchant, to be copied into a letter. */
function Claim({ text }: { text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <Block above="s">
      <TextField
        fullWidth
        multiline
        label={say('Claim to the merchant')}
        value={text}
        slotProps={{ htmlInput: { readOnly: true, name: 'claim' } }}
      />
      <Button onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}>
        {copied ? say('Copied') : say('Copy the claim')}
      </Button>
    </Block>
  );
}
