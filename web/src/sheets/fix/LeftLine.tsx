import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { useRecord } from '../../api/records';
import { parseFigure } from '../../parts/figure';
import { Bad, Grow, P, Quiet, Row, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { moment, say } from '../../words/words';
import { LeftForm } from './LeftForm';

interface LeftLineProps {
  job: Of<'JobView'>;
  left: Of<'LeftState'>;
  /** Whether the person may put it right, and say how it stands. */
  clears: boolean;
  notes: boolean;
  qualified: boolean;
}

/** Something that is left as it is: what it is, what to be careful of, until when, and what shows that it was put right. */
export function LeftLine({ job, left: l, clears, notes, qualified }: LeftLineProps) {
  const record = useRecord(job.id);
  const [open, setOpen] = useState<'' | 'stands' | 'right'>('');
  const [how, setHow] = useState('');
  const [hours, setHours] = useState('');
  const [parts, setParts] = useState('');
  const charged = useTerms().data?.left?.find((k) => k.id === l.record.left)?.others;
  const spentH = parseFigure(hours);
  const cost = parseFigure(parts);
  const wrong = spentH === undefined || cost === undefined;
  return (
    <div data-left={l.record.left} data-danger={l.danger || undefined} style={{ borderBottom: '1px solid var(--rule)', padding: '8px 0' }}>
      <Row align="start">
        <Mark verdict={l.danger ? 'fail' : 'caution'} />
        <Grow>
          {l.danger && <Bad>{say('Danger now.')} </Bad>}
          {l.says}{' '}
          <Quiet>
            · {l.record.by}, {moment(l.record.at)} · {l.waits}
            {l.when && ` · ${l.when}`}
            {l.record.person && ` · ${l.record.person}`}
          </Quiet>
          <Quiet block>{l.care}</Quiet>
          {l.lacks.length > 0 && <Quiet block>{say('Not said yet: {{what}}.', { what: l.lacks.join(', ') })}</Quiet>}
          {clears && l.proof && <Quiet block>{say('Put right once there is {{proof}}.', { proof: l.proof })}</Quiet>}
        </Grow>
      </Row>
      <Row above="xs" align="end" className="no-print">
        <Photos job={job} subject={l.record.id} what={l.says} small />
        {notes && !open && <Button onClick={() => setOpen('stands')}>{say('Has changed')}</Button>}
        {clears && !open && (
          <Button disabled={!!l.proof} onClick={() => setOpen('right')}>
            {say('Put right')}
          </Button>
        )}
      </Row>
      {open === 'stands' && <LeftForm job={job} old={l.record} qualified={qualified} done={() => setOpen('')} />}
      {open === 'right' && (
        <Row above="s" align="end">
          <TextField
            sx={{ flex: '1 1 200px' }}
            autoFocus
            label={say('How it was put right')}
            value={how}
            onChange={(e) => setHow(e.target.value)}
            slotProps={{ htmlInput: { name: 'how', maxLength: 400 } }}
          />
          {charged && (
            <>
              <TextField
                label={say('Hours that it took')}
                value={hours}
                error={spentH === undefined}
                onChange={(e) => setHours(e.target.value)}
                slotProps={{ htmlInput: { name: 'spentH', inputMode: 'decimal' } }}
              />
              <TextField
                label={say('Parts that it took, price')}
                value={parts}
                error={cost === undefined}
                onChange={(e) => setParts(e.target.value)}
                slotProps={{ htmlInput: { name: 'partsCost', inputMode: 'decimal' } }}
              />
            </>
          )}
          <Button
            variant="contained"
            disabled={!how.trim() || wrong || record.isPending}
            onClick={() =>
              record.mutate(
                {
                  kind: 'loose-end',
                  subject: l.record.id,
                  done: true,
                  note: how,
                  path: l.record.path,
                  ...(charged && typeof spentH === 'number' && { spentH }),
                  ...(charged && typeof cost === 'number' && { cost }),
                },
                { onSuccess: () => setOpen('') },
              )
            }
          >
            {say('Record')}
          </Button>
        </Row>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
      {l.danger && !qualified && (
        <P small>{say('Cover it or switch it off and lock. Whoever is authorised then says that it is made safe.')}</P>
      )}
    </div>
  );
}
