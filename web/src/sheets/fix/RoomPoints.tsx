import { styled } from '@mui/material/styles';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { membersOf, useKept, useRecord } from '../../api/records';
import { Block, Caution, Details, Quiet, Row, Wrong } from '../../parts/layout';
import { Photos } from '../../parts/Photos';
import { say } from '../../words/words';

const Chip = styled(Button)({ minHeight: 44, textTransform: 'none', padding: '2px 10px', fontWeight: 400 });
const Point = styled('div')({ borderTop: '1px solid var(--rule)', padding: '8px 0' });

type Step = Of<'PointTerm'>['id'];

interface RoomPointsProps {
  job: Of<'JobView'>;
  room: Of<'RoomWork'>;
  stage: 'first fix' | 'second fix';
}

/** The points of a room, each with the work on it that is done: one touch for each, or for all of the room. Gloves on, one hand free. */
export function RoomPoints({ job, room, stage }: RoomPointsProps) {
  const record = useRecord(job.id);
  const { kept } = useKept(job.id);
  const [failing, setFailing] = useState<string>();
  const [note, setNote] = useState('');
  const steps = (useTerms().data?.pointSteps ?? []).filter((s) => s.stage === stage);
  const held = stage === 'first fix' ? room.first : room.second;
  // What waits for a connection counts as said.
  const done = (p: Of<'PointWork'>, s: Step) => {
    let is = p.done.includes(s);
    for (const k of kept) {
      const r = membersOf(k.record);
      if (k.refused || k.record.kind !== 'point-work' || r.room !== room.room || !r.steps?.includes(s)) continue;
      if (!r.points?.length || r.points.includes(p.point)) is = !!r.done;
    }
    return is;
  };
  const send = (s: Step, points: string[], is: boolean) =>
    record.mutate({ kind: 'point-work', room: room.room, steps: [s], points, done: is });
  const may = !job.view.frozen && job.view.may.includes('point-work');
  const closed = (s: Step) => !may || (!!held && s !== 'marked' && s !== 'tagged');
  return (
    <div data-room-points={room.room}>
      {held && <Quiet block>{held}</Quiet>}
      <Row gap="s" above="s">
        <Quiet>{say('All of this room:')}</Quiet>
        {steps.map((s) => {
          const n = room.points.filter((p) => done(p, s.id)).length;
          const all = n === room.points.length;
          return (
            <Chip
              key={s.id}
              data-all={s.id}
              variant={all ? 'outlined' : s.open ? 'text' : 'contained'}
              disabled={all || closed(s.id) || record.isPending}
              onClick={() => send(s.id, [], true)}
              aria-label={say('{{what}}: all of this room', { what: s.name })}
            >
              {all
                ? say('{{what}}: all', { what: s.name })
                : say('{{what}} {{n}} of {{all}}', { what: s.name, n, all: room.points.length })}
            </Chip>
          );
        })}
      </Row>
      <Details>
        <summary>{say('Point by point')}</summary>
        {room.points.map((p) => (
          <Point key={p.point} data-point={p.point}>
            <b>{p.says}</b> {p.tags.length > 0 && <Quiet>{p.tags.join(', ')}</Quiet>}
            {p.failed && <Caution>{say('A conductor came out at the tug: {{what}}', { what: p.failed })}</Caution>}
            <Row gap="s" above="xs">
              {steps.map((s) => (
                <Chip
                  key={s.id}
                  data-step={s.id}
                  aria-pressed={done(p, s.id)}
                  variant="outlined"
                  disabled={(closed(s.id) && !done(p, s.id)) || !may || record.isPending}
                  onClick={() => send(s.id, [p.point], !done(p, s.id))}
                >
                  {done(p, s.id) ? '● ' : '○ '}
                  {s.name}
                </Chip>
              ))}
              {stage === 'second fix' && may && failing !== p.point && (
                <Chip data-came-out={p.point} variant="text" onClick={() => setFailing(p.point)}>
                  {say('One came out')}
                </Chip>
              )}
            </Row>
            {failing === p.point && (
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
                  disabled={!note.trim() || record.isPending}
                  onClick={() =>
                    record.mutate(
                      { kind: 'point-work', room: room.room, steps: ['tugged'], points: [p.point], done: false, passed: false, note },
                      {
                        onSuccess: () => {
                          setFailing(undefined);
                          setNote('');
                        },
                      },
                    )
                  }
                >
                  {say('Record')}
                </Button>
              </Row>
            )}
            <Block above="s">
              <Photos job={job} subject={p.point} what={p.says} small />
            </Block>
          </Point>
        ))}
      </Details>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </div>
  );
}
