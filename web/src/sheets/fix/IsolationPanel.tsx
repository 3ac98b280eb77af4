import { styled } from '@mui/material/styles';
import { moment, say } from '../../words/words';
import { Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { useKept, useRecord } from '../../api/records';

import { Boxed, Caution, Fields, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { sentLater } from '../../parts/sentLater';
import { Locks } from './Locks';

const Choices = styled('div')({ display: 'flex', gap: 8 });

/** The isolation record: source, lock and tag, tester proved, every pair dead, tester proved again. At the board, one hand free. */
export function IsolationPanel({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const terms = useTerms().data;
  const [oneHot, setOneHot] = useState(false);
  const pairs = (oneHot ? terms?.pairsOneHot : terms?.pairs) ?? [];
  const [open, setOpen] = useState<'' | 'new' | 'correct' | 'withdraw'>('');
  const [why, setWhy] = useState('');
  const now = job.view.tests.isolation;
  const waits = useKept(job.id)
    .kept.filter((k) => !k.refused)
    .flatMap(({ record }) => (record.kind === 'isolation' ? [record] : []))
    .at(-1);
  const may = job.view.may.includes('isolation');
  const [text, setText] = useState({ source: '', lockTag: '', tester: '', stillLive: '' });
  const [steps, setSteps] = useState<Record<string, boolean>>({});
  const done = () => {
    setOpen('');
    setSteps({});
    setWhy('');
  };
  const reason = (label: string) => (
    <TextField label={label} value={why} onChange={(e) => setWhy(e.target.value)} slotProps={{ htmlInput: { name: 'why' } }} />
  );
  const step = (id: string, label: string) => (
    <FormControlLabel
      key={id}
      sx={{ display: 'flex', minHeight: 44 }}
      control={
        <Checkbox
          checked={!!steps[id]}
          onChange={(e) => setSteps({ ...steps, [id]: e.target.checked })}
          slotProps={{ input: { name: id } }}
        />
      }
      label={label}
    />
  );
  const box = (id: keyof typeof text, label: string, help: string) => (
    <TextField
      label={label}
      value={text[id]}
      helperText={help}
      onChange={(e) => setText({ ...text, [id]: e.target.value })}
      slotProps={{ htmlInput: { name: id } }}
    />
  );
  const save = () =>
    record.mutate(
      {
        kind: 'isolation',
        ...text,
        provedBefore: !!steps.provedBefore,
        provedAfter: !!steps.provedAfter,
        pairsDead: pairs.filter((p) => steps[p]),
        oneHot,
        ...(open === 'correct' && now && { supersedes: now.id, note: why }),
      },
      { onSuccess: done },
    );
  return (
    <Section aria-label={say('Isolation')}>
      <Heading>{say('Isolation')}</Heading>
      {waits && (
        <P around="xs" data-kept-isolation>
          <Mark verdict="unknown" />{' '}
          {say('Isolation recorded here, {{at}}: {{source}}; {{lockTag}}. It waits for a connection and is not judged yet.', {
            at: waits.sent ? moment(waits.sent.occurredAt) : '',
            source: waits.source ?? '',
            lockTag: waits.lockTag ?? '',
          })}
        </P>
      )}
      {now ? (
        <P around="xs">
          <Mark verdict="pass" />{' '}
          {say('Proved dead by you, {{at}}: {{source}}; {{lockTag}}. ', { at: moment(now.at), source: now.source, lockTag: now.lockTag })}
          <b>{say('Stays live: {{stillLive}}.', { stillLive: now.stillLive || say('not recorded') })}</b> <Quiet>{sentLater(now)}</Quiet>
        </P>
      ) : waits ? null : (
        <P around="xs">
          <Mark verdict="unknown" />{' '}
          {say(
            'No isolation of yours today. Work that opens an enclosure stays closed until there is one; it holds for ' +
              'you, and until the end of the day or until something is energised.',
          )}
        </P>
      )}
      <Locks job={job} />
      {!open && (
        <Row className="no-print">
          <Button variant={now ? 'outlined' : 'contained'} disabled={!may} data-isolate onClick={() => setOpen('new')}>
            {now ? say('Record it again') : say('Record an isolation')}
          </Button>
          {now && may && (
            <>
              <Button
                onClick={() => {
                  setText({ source: now.source, lockTag: now.lockTag, tester: now.tester, stillLive: now.stillLive });
                  setOpen('correct');
                }}
              >
                {say('Correct it')}
              </Button>
              <Button onClick={() => setOpen('withdraw')}>{say('Withdraw it')}</Button>
            </>
          )}
        </Row>
      )}
      {!may && (
        <Quiet>
          {' '}
          {say('You are not authorised to isolate on this job: whoever is records it, and you hang a lock of your own under it.')}
        </Quiet>
      )}
      {open === 'withdraw' && now && (
        <Boxed>
          <Caution>
            {say(
              'From now on it proves nothing: stop what is done under it, and treat everything behind it as live. ' +
                'The lock stays on record until it is taken off.',
            )}
          </Caution>
          <Fields>{reason(say('Why it proves nothing'))}</Fields>
          {record.error && <Wrong>{record.error.message}</Wrong>}
          <Row>
            <Button
              variant="contained"
              disabled={!why.trim() || record.isPending}
              onClick={() => record.mutate({ kind: 'withdrawal', subject: now.id, note: why }, { onSuccess: done })}
            >
              {say('Withdraw the isolation')}
            </Button>
            <Button onClick={done}>{say('Cancel')}</Button>
          </Row>
        </Boxed>
      )}
      {(open === 'new' || open === 'correct') && (
        <Boxed>
          <Caution>
            {say('In this order. A tester that was not proved on a known source proves nothing. The incoming terminals stay live.')}
          </Caution>
          <Fields>
            {box('source', say('What was switched off'), say('the switch or fuse, by its name'))}
            {box('lockTag', say('Lock and tag'), say('whose lock, which tag'))}
            {box('tester', say('Tester'), say('make and number'))}
            {box('stillLive', say('What stays live'), say('name the terminals'))}
            {open === 'correct' && reason(say('What was wrong with the record before'))}
          </Fields>
          {!!terms?.pairsOneHot?.length && (
            <FormControlLabel
              sx={{ display: 'flex', minHeight: 44 }}
              control={
                <Checkbox checked={oneHot} onChange={(e) => setOneHot(e.target.checked)} slotProps={{ input: { name: 'oneHot' } }} />
              }
              label={say('One circuit with a single hot, by its own breaker: the panel stays live and closed')}
            />
          )}
          {step('provedBefore', say('1. Tester proved on a known source'))}
          {pairs.map((p, i) => step(p, say('{{i}}. Dead between {{p}}', { i: i + 2, p: p.replace('-', ' and ') })))}
          {step('provedAfter', say('{{pairs}}. Tester proved again', { pairs: pairs.length + 2 }))}
          {record.error && <Wrong>{record.error.message}</Wrong>}
          <Choices>
            <Button variant="contained" disabled={record.isPending} onClick={save}>
              {say('Record')}
            </Button>
            <Button onClick={done}>{say('Cancel')}</Button>
          </Choices>
        </Boxed>
      )}
    </Section>
  );
}
