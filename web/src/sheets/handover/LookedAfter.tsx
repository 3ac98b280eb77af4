import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { useRecord } from '../../api/records';
import { Grow, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { sentLater } from '../../parts/sentLater';
import { moment, say } from '../../words/words';

/** What was looked after since the job was signed: buttons pressed, a check after a storm, a return visit. It opens no new revision. */
export function LookedAfter({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const record = useRecord(job.id);
  const kinds = useTerms().data?.aftercare ?? [];
  const [subject, setSubject] = useState('');
  const [passed, setPassed] = useState('');
  const [note, setNote] = useState('');
  const list = j.records.filter((r) => r.kind === 'aftercare');
  const add = () =>
    record.mutate(
      { kind: 'aftercare', subject, passed: passed === 'yes', note },
      {
        onSuccess: () => {
          setSubject('');
          setPassed('');
          setNote('');
        },
      },
    );
  return (
    <Section aria-label={say('After the handover')}>
      <Heading>{say('After the handover')}</Heading>
      {list.length === 0 && <P around="xs">{say('Nothing is on record since.')}</P>}
      {list.map((r) => (
        <Row key={r.id} ruled pad="s" data-after={r.subject}>
          <Mark verdict={r.passed ? 'pass' : 'fail'} label={r.passed ? say('in order') : say('not in order')} />
          <Grow>
            {kinds.find((k) => k.id === r.subject)?.name ?? r.subject}: {r.note}{' '}
            <Quiet>
              · {r.by}, {moment(r.at)} {sentLater(r)}
            </Quiet>
          </Grow>
        </Row>
      ))}
      <Row className="no-print" above="s" align="end">
        <TextField
          select
          sx={{ flex: '1 1 200px' }}
          label={say('What was looked after')}
          value={subject}
          onChange={(e) => setSubject(e.target.value)}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true }, htmlInput: { name: 'after' } }}
        >
          <option value="">{say('choose')}</option>
          {kinds.map((k) => (
            <option key={k.id} value={k.id}>
              {k.name}
            </option>
          ))}
        </TextField>
        <TextField
          select
          sx={{ flex: '0 1 150px' }}
          label={say('In order?')}
          value={passed}
          onChange={(e) => setPassed(e.target.value)}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true }, htmlInput: { name: 'inOrder' } }}
        >
          <option value="">{say('choose')}</option>
          <option value="yes">{say('In order')}</option>
          <option value="no">{say('Not in order')}</option>
        </TextField>
        <TextField
          sx={{ flex: '2 1 240px' }}
          label={say('What was seen and done')}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { name: 'afterNote' } }}
        />
        <Button variant="contained" disabled={!subject || !passed || !note.trim() || record.isPending} onClick={add}>
          {say('Record')}
        </Button>
      </Row>
      <Quiet block>
        {say('What is not in order stands on the snag list too. The seal of the signed revision does not cover what came after it.')}
      </Quiet>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Section>
  );
}
