import { styled } from '@mui/material/styles';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { useRecord } from '../../api/records';
import { sheetName } from '../../frame/sheets';
import { EditTable } from '../../parts/EditTable';
import { TextBox, YesNoBox } from '../../parts/fields';
import { DateBox } from '../../parts/DateBox';
import { Block, Fields, Grow, Heading, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** Whether a line holds the cut. */
const holdsCut = (c: Of<'OutageItem'>) => c.state !== 'pass' && !c.released;

const Named = styled('b')({ flex: '0 1 300px' });

/** What must be ready before the supply goes off: each open line holds the step in which it is isolated, until it is ready or let go in writing. */
export function BeforeTheCut({ job, part, plan }: { job: Of<'JobView'>; part: Part<Of<'Outage'>>; plan: Of<'OutagePlan'> }) {
  const open = plan.checks.filter(holdsCut).length;
  return (
    <Section>
      <Heading aside={plan.ready ? say('ready for the cut') : say('{{checks}} open', { checks: open })}>{say('Before the cut')}</Heading>
      {plan.checks.map((c) => (
        <Line key={c.id} job={job} item={c} />
      ))}
      <Fields above="m">
        <YesNoBox part={part} path="inspector.needed" label={say('An inspector must come')} />
        <TextBox part={part} path="inspector.who" label={say('Inspector')} />
        <DateBox part={part} path="inspector.on" label={say('Comes on')} />
        <YesNoBox part={part} path="lightReady" label={say('Light at the board is there')} />
        {plan.late && <YesNoBox part={part} path="darkReady" label={say('Light to work by after dark is there')} />}
        <YesNoBox part={part} path="noTemporary" label={say('Asked: nothing needs a temporary supply')} sure />
        <YesNoBox part={part} path="noTails" label={say('No existing cable is moved over')} sure />
      </Fields>
      <Block above="m" />
      <EditTable
        part={part}
        path="temporary"
        label={say('What cannot be without supply')}
        add={say('Add a temporary supply')}
        newRow={() => ({ what: 'freezer', how: '', ready: false })}
        columns={[
          { key: 'what', label: say('Temporary supply') },
          { key: 'how', label: say('How it is fed meanwhile') },
          { key: 'ready', label: say('Ready'), kind: 'check', width: 60 },
        ]}
      />
    </Section>
  );
}

/** One line of the list, which the supervisor may let go with the reason where that is theirs to do. */
function Line({ job, item: c }: { job: Of<'JobView'>; item: Of<'OutageItem'> }) {
  const record = useRecord(job.id);
  const [why, setWhy] = useState<string>();
  return (
    <Block data-before={c.id} data-state={c.released ? 'released' : c.state} ruled pad="xs">
      <Row>
        <Mark verdict={c.released ? 'caution' : c.state} />
        <Named>{c.what}</Named>
        <Grow from={200}>
          {c.summary}
          {c.released && <Quiet block>{say('Let go: {{released}}', { released: c.released })}</Quiet>}
        </Grow>
        {c.sheet !== 'supply' && <Link to={`/jobs/${job.id}/${c.sheet}`}>{sheetName(c.sheet)}</Link>}
        {holdsCut(c) && c.may && job.view.may.includes('release') && why === undefined && (
          <Button onClick={() => setWhy('')}>{say('Let it go')}</Button>
        )}
      </Row>
      {why !== undefined && (
        <Row above="s" align="end">
          <TextField
            sx={{ flex: '1 1 240px' }}
            autoFocus
            label={say('Why the supply may go off all the same')}
            helperText={say('It goes on the handover pack with your name, and holds for this alone: of anything else it is none.')}
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            slotProps={{ htmlInput: { name: 'releaseWhy', maxLength: 400 } }}
          />
          <Button
            variant="contained"
            disabled={!why.trim() || record.isPending}
            onClick={() => record.mutate({ kind: 'release', subject: `cutoff:${c.id}`, note: why }, { onSuccess: () => setWhy(undefined) })}
          >
            {say('Let it go')}
          </Button>
          <Button onClick={() => setWhy(undefined)}>{say('Cancel')}</Button>
        </Row>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Block>
  );
}
