import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';

import { Details, Grow, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { LeftForm } from './LeftForm';
import { LeftLine } from './LeftLine';

/** What was left temporarily undone: it holds energising, or the handover, until somebody has put it right. */
export function LooseEnds({ job }: { job: Of<'JobView'> }) {
  const record = useRecord(job.id);
  const [clearing, setClearing] = useState<string>();
  const [how, setHow] = useState('');
  const qualified = job.view.holds.includes('release');
  const notes = job.view.may.includes('loose-end');
  const plain = job.view.loose.filter((l) => !l.left);
  const noted = (id: string) =>
    job.view.job?.records.find((r) => r.id === id)?.note || job.view.job?.records.find((r) => r.id === id)?.place || id;
  return (
    <Section>
      <Heading>{say('Snag list')}</Heading>
      {job.view.loose.length === 0 && <P around="xs">{say('No snags.')}</P>}
      {job.view.left.map((l) => (
        <LeftLine
          key={l.record.id}
          job={job}
          left={l}
          notes={notes}
          qualified={qualified}
          clears={qualified || (notes && l.record.path === 'handover' && !l.danger)}
        />
      ))}
      {plain.map((l) => (
        <Row key={l.id} ruled pad="s">
          <Mark verdict="caution" />
          <Grow>
            {l.note}{' '}
            <Quiet>
              · {l.by}, {moment(l.at)} · {l.path === 'handover' ? say('before the handover') : say('before anything is energised')}
            </Quiet>
          </Grow>
          {(qualified || (notes && l.path === 'handover')) && clearing !== l.id && (
            <Button onClick={() => setClearing(l.id)}>{say('Put right')}</Button>
          )}
          {clearing === l.id && (
            <>
              <TextField
                sx={{ flex: '1 1 200px' }}
                autoFocus
                label={say('How it was put right')}
                value={how}
                onChange={(e) => setHow(e.target.value)}
                slotProps={{ htmlInput: { name: 'how' } }}
              />
              <Button
                variant="contained"
                disabled={!how.trim() || record.isPending}
                onClick={() =>
                  record.mutate(
                    { kind: 'loose-end', subject: l.id, done: true, note: how, path: l.path },
                    {
                      onSuccess: () => {
                        setClearing(undefined);
                        setHow('');
                      },
                    },
                  )
                }
              >
                {say('Record')}
              </Button>
            </>
          )}
        </Row>
      ))}
      {job.view.cleared.map((c) => (
        <Row key={c.id} pad="s">
          <Mark verdict="pass" />
          <Grow>
            {noted(c.subject)} <Quiet>{say('· put right by {{by}}, {{at}}: {{note}}', { by: c.by, at: moment(c.at), note: c.note })}</Quiet>
          </Grow>
          {qualified && (
            <Button
              disabled={record.isPending}
              onClick={() => record.mutate({ kind: 'loose-end', subject: c.subject, supersedes: c.id, note: say('opened again') })}
            >
              {say('Open again')}
            </Button>
          )}
        </Row>
      ))}
      {!notes && <Quiet>{say('Whoever is on site notes snags and puts them right.')}</Quiet>}
      {notes && (
        <Details className="no-print" data-note-left>
          <summary>{say('Note what is left')}</summary>
          <LeftForm job={job} qualified={qualified} done={() => undefined} />
        </Details>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Section>
  );
}
