import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { useReceive } from '../../api/goods';
import { useFrame } from '../../frame/Shell';
import { figure, parseFigure } from '../../parts/figure';
import { Block, Fields, Fixed, Grow, Quiet, Row, Wrong } from '../../parts/layout';
import { say } from '../../words/words';

interface Counted {
  count: string;
  lengths: string;
  remark: string;
}

/** A note beside which somebody writes what they counted; the note's own figures are no count until somebody says so. */
export function CountNote({ job, note, onDone }: { job: Of<'JobView'>; note: Of<'GoodsNote'>; onDone: () => void }) {
  const { me } = useFrame();
  const receive = useReceive(job.id);
  const [by, setBy] = useState(me.name);
  const [number, setNumber] = useState(note.number);
  const [merchant, setMerchant] = useState(note.merchant);
  const [on, setOn] = useState(note.on);
  const [counted, setCounted] = useState<Record<number, Counted>>({});
  const of = (row: number): Counted => counted[row] ?? { count: '', lengths: '', remark: '' };
  const set = (row: number, what: Partial<Counted>) => setCounted({ ...counted, [row]: { ...of(row), ...what } });
  const figures = note.lines.map((l) => parseFigure(of(l.row).count));
  const ready = by.trim() !== '' && figures.every((v) => typeof v === 'number' && v >= 0);
  const book = () =>
    receive.mutate(
      {
        id: `d-${newKey().slice(0, 8)}`,
        number,
        merchant,
        on,
        countedBy: by,
        lines: note.lines.map((l, i) => ({
          product: l.product,
          name: l.name,
          said: l.said,
          counted: figures[i] ?? 0,
          lengths: of(l.row).lengths,
          remark: of(l.row).remark,
        })),
      },
      { onSuccess: onDone },
    );
  return (
    <Block data-count-note>
      <Fields>
        <TextField
          label={say('Counted by')}
          value={by}
          onChange={(e) => setBy(e.target.value)}
          slotProps={{ htmlInput: { name: 'countedBy' } }}
        />
        <TextField label={say('Delivery note')} value={number} onChange={(e) => setNumber(e.target.value)} />
        <TextField label={say('Merchant')} value={merchant} onChange={(e) => setMerchant(e.target.value)} />
        <TextField
          label={say('Delivered on')}
          type="date"
          value={on}
          onChange={(e) => setOn(e.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      </Fields>
      <Row around="m">
        <Button
          onClick={() =>
            setCounted(Object.fromEntries(note.lines.map((l) => [l.row, { ...of(l.row), count: String(l.said), lengths: l.lengths }])))
          }
        >
          {say('All counted as the note says')}
        </Button>
      </Row>
      {note.lines.map((l) => (
        <Row key={l.row} ruled pad="xs" align="end" data-note-line={l.product}>
          <Grow from={220}>
            {l.name}
            <Quiet block>
              {say('the note says {{said}}', { said: figure(l.said, l.unit) })}
              {l.lengths && ` (${l.lengths})`} · {say('{{open}} on order', { open: figure(l.open, l.unit) })}
              {l.remark && ` · ${l.remark}`}
            </Quiet>
            {l.trouble && (
              <Wrong>
                {say('If that is what came:')} {l.trouble}
              </Wrong>
            )}
          </Grow>
          <Fixed least={110}>
            <TextField
              label={say('Counted, {{unit}}', { unit: l.unit })}
              value={of(l.row).count}
              onChange={(e) => set(l.row, { count: e.target.value })}
              slotProps={{ htmlInput: { inputMode: 'decimal', name: `count-${l.row}` } }}
            />
          </Fixed>
          {(l.unit === 'm' || l.unit === 'ft') && (
            <Fixed least={150}>
              <TextField
                label={say('Pieces, as 30 + 12')}
                value={of(l.row).lengths}
                onChange={(e) => set(l.row, { lengths: e.target.value })}
                slotProps={{ htmlInput: { name: `lengths-${l.row}` } }}
              />
            </Fixed>
          )}
          <Fixed least={170}>
            <TextField
              label={say('Damaged, wrong or missing')}
              value={of(l.row).remark}
              onChange={(e) => set(l.row, { remark: e.target.value })}
            />
          </Fixed>
        </Row>
      ))}
      {receive.error && <Wrong>{receive.error.message}</Wrong>}
      <Row above="m">
        <Button variant="contained" disabled={!ready || receive.isPending} onClick={book}>
          {say('Book it in')}
        </Button>
        <Button onClick={onDone}>{say('Cancel')}</Button>
        {!ready && <Quiet>{say('Each line needs a count, 0 where nothing came, and who counted.')}</Quiet>}
      </Row>
    </Block>
  );
}
