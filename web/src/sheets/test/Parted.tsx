import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { Grow, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Pick } from '../../parts/Pick';
import { moment, say } from '../../words/words';
import { Clamp, useClamp } from './Clamp';

/** What is parted for a test, until somebody who may has connected it again: it holds whatever rests on it. */
export function Parted({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const [picked, setPicked] = useState('');
  const [notClamped, setNotClamped] = useState('');
  const clamp = useClamp();
  const { conductors } = job.view.tests;
  const taken = conductors.find((c) => c.id === picked);
  const parted = conductors.filter((c) => c.parted);
  const qualified = job.view.holds.includes('release');
  const notes = job.view.may.includes('loose-end');
  const back = ([c, ...rest]: Of<'PartedConductor'>[]) =>
    c?.parted &&
    record.mutate(
      { kind: 'loose-end', subject: c.parted.id, done: true, note: say('reconnected and tightened'), path: '' },
      { onSuccess: () => back(rest) },
    );
  return (
    <Section data-parted-list={parted.length}>
      <Heading>{say('Disconnected for a test')}</Heading>
      {parted.length === 0 && <P around="xs">{say('Nothing is on record as disconnected.')}</P>}
      {parted.map((c) => (
        <Row key={c.id} ruled pad="s" data-parted={c.id}>
          <Mark verdict="fail" />
          <Grow from={200}>
            {c.name}{' '}
            {c.parted && (
              <Quiet>
                · {c.parted.by}, {moment(c.parted.at)}
                {c.parted.clampA != null && <> · {say('{{a}} A clamped before', { a: c.parted.clampA })}</>}
                {c.parted.bridged && <> · {say('bridged first')}</>}
                {c.parted.couldNot && <> · {say('not clamped: {{why}}', { why: c.parted.couldNot })}</>}
              </Quiet>
            )}
          </Grow>
          {qualified && (
            <Button disabled={record.isPending} onClick={() => back([c])}>
              {say('Reconnected, tightened')}
            </Button>
          )}
        </Row>
      ))}
      {qualified && parted.length > 1 && (
        <Button variant="outlined" sx={{ mt: 1 }} disabled={record.isPending} onClick={() => back(parted)} data-all-back>
          {say('All {{n}} are reconnected: each was looked at, pulled and tightened', { n: parted.length })}
        </Button>
      )}
      {parted.length > 0 && !qualified && (
        <Quiet block>{say('Whoever is authorised to clear what holds the work looks at it and records it as reconnected.')}</Quiet>
      )}
      {notes && (
        <Row className="no-print" above="s" align="end">
          <Grow from={200}>
            <Pick
              label={say('Disconnected by hand')}
              name="partedNow"
              value={picked}
              onChange={setPicked}
              options={conductors.filter((c) => !c.parted)}
              help={say('noted before it is taken off its terminal')}
            />
          </Grow>
          {taken?.clamped && (
            <Grow from={280}>
              <Clamp names={[taken.name]} typed={clamp} />
              <TextField
                label={say('Or why it was not clamped')}
                value={notClamped}
                onChange={(e) => setNotClamped(e.target.value)}
                slotProps={{ htmlInput: { name: 'notClamped' } }}
              />
            </Grow>
          )}
          <Button
            disabled={!picked || record.isPending}
            onClick={() =>
              record.mutate(
                { kind: 'loose-end', parted: picked, ...(taken?.clamped && { ...clamp.read, couldNot: notClamped }) },
                {
                  onSuccess: () => {
                    setPicked('');
                    setNotClamped('');
                    clamp.clear();
                  },
                },
              )
            }
          >
            {say('Write it down')}
          </Button>
        </Row>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Section>
  );
}
