import { styled } from '@mui/material/styles';
import { Button, TextField } from '@mui/material';
import { memo, useState } from 'react';
import type { Of } from '../../api/client';
import { Block, Caution, Quiet, Row } from '../../parts/layout';
import { Photos } from '../../parts/Photos';
import { say } from '../../words/words';
import { TerminalGuide } from './TerminalGuide';

/** A touch that says one thing. Plain, as there are hundreds on a sheet. */
export const Chip = styled('button')({
  font: 'inherit',
  color: 'var(--copper)',
  background: 'none',
  border: '1px solid var(--copper)',
  minHeight: 44,
  padding: '2px 10px',
  cursor: 'pointer',
  '&[data-all]': { background: 'var(--copper)', color: 'var(--sheet)' },
  '&:disabled': { color: 'var(--ink2)', borderColor: 'var(--rule2)', background: 'none', cursor: 'default' },
});
const Point = styled('div')({ borderTop: '1px solid var(--rule)', padding: '8px 0' });

export type PointStep = Of<'PointTerm'>['id'];

interface PointRowProps {
  job: Of<'JobView'>;
  point: Of<'PointWork'>;
  steps: Of<'PointTerm'>[];
  /** The ids of what is done, and of what cannot be said now, with a comma after each. */
  done: string;
  closed: string;
  /** Whether a conductor that came out can be said. */
  tugs: boolean;
  locked: boolean;
  onSay: (step: PointStep, point: string, done: boolean) => void;
  onCameOut: (point: string, note: string) => void;
}

/** One or several alike points: each piece of the work on them, one touch each, and their pictures. */
export const PointRow = memo(function PointRow({ job, point: p, steps, done, closed, tugs, locked, onSay, onCameOut }: PointRowProps) {
  const [failing, setFailing] = useState(false);
  const [note, setNote] = useState('');
  const is = (list: string, s: PointStep) => list.includes(`${s},`);
  return (
    <Point data-point={p.point}>
      <b>{p.says}</b> {p.tags.length > 0 && <Quiet>{p.tags.join(', ')}</Quiet>}
      {p.failed && <Caution>{say('A conductor came out at the tug: {{what}}', { what: p.failed })}</Caution>}
      {tugs && p.care && <Caution>{p.care}</Caution>}
      {p.wires.map((w) => (
        <TerminalGuide key={w.says.join()} wires={w} of={p.wires.length > 1 ? w.tags.join(', ') : ''} />
      ))}
      <Row gap="s" above="xs">
        {steps
          .filter((s) => p.steps.includes(s.id))
          .map((s) => (
            <Chip
              key={s.id}
              type="button"
              data-step={s.id}
              aria-pressed={is(done, s.id)}
              disabled={locked || (is(closed, s.id) && !is(done, s.id))}
              onClick={() => onSay(s.id, p.point, !is(done, s.id))}
            >
              {is(done, s.id) ? '● ' : '○ '}
              {s.name}
            </Chip>
          ))}
        {tugs && !failing && (
          <Chip type="button" data-came-out={p.point} onClick={() => setFailing(true)}>
            {say('One came out')}
          </Chip>
        )}
      </Row>
      {failing && (
        <Row above="s" align="end">
          <TextField
            autoFocus
            label={say('Which conductor came out, and why')}
            value={note}
            onChange={(e) => setNote(e.target.value)}
            slotProps={{ htmlInput: { name: 'cameOut', maxLength: 400 } }}
          />
          <Button
            variant="contained"
            disabled={!note.trim()}
            onClick={() => {
              onCameOut(p.point, note);
              setFailing(false);
              setNote('');
            }}
          >
            {say('Record')}
          </Button>
        </Row>
      )}
      <Block above="s">
        <Photos job={job} subject={p.point} what={p.says} small />
      </Block>
    </Point>
  );
});
