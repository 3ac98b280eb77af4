import { Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { useRecord } from '../../api/records';
import { parseFigure } from '../../parts/figure';
import { Caution, Fields, Row, Wrong } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { say } from '../../words/words';

/** What is noted of something that is left as it is. A yes or no is empty while nobody said. */
interface Noted {
  left: string;
  room: string;
  circuit: string;
  place: string;
  note: string;
  alive: string;
  reach: string;
  shielded: boolean;
  attended: boolean;
  rating: string;
  protection: string;
  loads: string;
  person: string;
  due: string;
  trigger: string;
  trade: string;
  later: boolean;
}

const tri = (v?: boolean | null) => (v === undefined || v === null ? '' : v ? 'yes' : 'no');
const boolOf = (s: string) => (s === '' ? {} : s === 'yes');

const from = (r?: Of<'Record'>): Noted => ({
  left: r?.left ?? '',
  room: r?.room ?? '',
  circuit: r?.circuit ?? '',
  place: r?.place ?? '',
  note: r?.note ?? '',
  alive: tri(r?.alive),
  reach: tri(r?.reach),
  shielded: r?.shielded ?? false,
  attended: r?.attended ?? false,
  rating: r?.ratingA ? String(r.ratingA) : '',
  protection: r?.protection ?? '',
  loads: r?.loads ?? '',
  person: r?.person ?? '',
  due: r?.due ?? '',
  trigger: r?.trigger ?? '',
  trade: r?.trade ?? '',
  later: false,
});

interface LeftFormProps {
  job: Of<'JobView'>;
  /** As it stands, where it is noted how it stands now. */
  old?: Of<'Record'>;
  /** Whether the person may say that the circuit is energised with it. */
  qualified: boolean;
  done: () => void;
}

/** Notes something that is left as it is for the time being, or how it stands now. On the phone, in one hand. */
export function LeftForm({ job, old, qualified, done }: LeftFormProps) {
  const record = useRecord(job.id);
  const terms = useTerms().data;
  const [n, setN] = useState<Noted>(from(old));
  const set = (change: Partial<Noted>) => setN({ ...n, ...change });
  const kind = terms?.left?.find((k) => k.id === n.left);
  const j = job.view.job;
  const field = (key: 'place' | 'protection' | 'loads' | 'person', label: string, name: string) => (
    <TextField
      label={label}
      value={n[key]}
      onChange={(e) => set({ [key]: e.target.value })}
      slotProps={{ htmlInput: { name, maxLength: 120 } }}
    />
  );
  const tick = (key: 'shielded' | 'attended', label: string) => (
    <FormControlLabel
      control={<Checkbox checked={n[key]} onChange={(e) => set({ [key]: e.target.checked })} slotProps={{ input: { name: key } }} />}
      label={label}
    />
  );
  const yesNo = (key: 'alive' | 'reach', label: string, empty: string, yes: string, no: string) => (
    <Pick
      label={label}
      name={key}
      value={n[key]}
      onChange={(v) => set({ [key]: v })}
      empty={empty}
      options={[
        { id: 'yes', name: yes },
        { id: 'no', name: no },
      ]}
    />
  );
  const rating = parseFigure(n.rating);
  const send = () => {
    const alive = boolOf(n.alive);
    const reach = boolOf(n.reach);
    const typed = kind && {
      left: kind.id,
      room: n.room,
      circuit: n.circuit,
      place: n.place,
      person: n.person,
      due: n.due,
      trigger: n.trigger as NonNullable<Of<'Record'>['trigger']>,
      shielded: n.shielded,
      attended: n.attended,
      ...(typeof alive === 'boolean' && { alive }),
      ...(typeof reach === 'boolean' && { reach }),
      ...(kind.rated && typeof rating === 'number' && { ratingA: rating }),
      ...(kind.others && { trade: n.trade }),
      ...(kind.fed && { protection: n.protection, loads: n.loads }),
      ...(old && { supersedes: old.id }),
    };
    record.mutate(
      { kind: 'loose-end', note: n.note, path: n.later ? 'handover' : (old?.path ?? ''), ...typed },
      {
        onSuccess: () => {
          setN(from());
          done();
        },
      },
    );
  };
  const somewhere = !!(n.room || n.circuit || n.place.trim());
  return (
    <div className="no-print" data-left-form={old?.id ?? 'new'}>
      <Fields least={150}>
        {!old && (
          <Pick
            label={say('What is left')}
            name="left"
            value={n.left}
            onChange={(left) => set({ left })}
            empty={say('in words')}
            options={(terms?.left ?? []).map((k) => ({ id: k.id, name: k.name }))}
          />
        )}
        {kind && (
          <>
            <Pick
              label={say('Room')}
              name="leftRoom"
              value={n.room}
              onChange={(room) => set({ room })}
              empty={say('none')}
              options={(j?.rooms ?? []).map((r) => ({ id: r.id, name: r.name }))}
            />
            <Pick
              label={say('Circuit')}
              name="leftCircuit"
              value={n.circuit}
              onChange={(circuit) => set({ circuit })}
              empty={say('not known')}
              options={(j?.circuits ?? []).map((k) => ({ id: k.id, name: k.name }))}
            />
            {field('place', say('Where'), 'leftPlace')}
            {(kind.ends || kind.open) && yesNo('alive', say('Live'), say('nobody proved it'), say('live'), say('proved dead'))}
            {kind.ends && yesNo('reach', say('In reach of others'), say('nobody said'), say('yes'), say('no'))}
            {(kind.ends || kind.open) && tick('shielded', kind.open ? say('Temporary plate on') : say('Capped, nothing can be touched'))}
            {kind.open && tick('attended', say('Somebody stands by'))}
            {kind.rated && (
              <TextField
                label={say('Rating, A')}
                value={n.rating}
                error={rating === undefined}
                helperText={rating === undefined ? say('a figure in A, or nothing') : undefined}
                onChange={(e) => set({ rating: e.target.value })}
                slotProps={{ htmlInput: { name: 'leftRating', inputMode: 'decimal' } }}
              />
            )}
            {kind.fed && field('protection', say('Protected by'), 'leftProtection')}
            {kind.fed && field('loads', say('What hangs on it'), 'leftLoads')}
            {kind.others && (
              <Pick
                label={say('Which trade did it')}
                name="leftTrade"
                value={n.trade}
                onChange={(trade) => set({ trade })}
                empty={say('nobody knows')}
                options={job.view.trades.map((t) => ({ id: t.id, name: t.name }))}
              />
            )}
            {field('person', say('Who puts it right'), 'leftWho')}
            <TextField
              type="date"
              label={say('By')}
              value={n.due}
              onChange={(e) => set({ due: e.target.value })}
              slotProps={{ htmlInput: { name: 'leftDue' }, inputLabel: { shrink: true } }}
            />
            <Pick
              label={say('Or after')}
              name="leftTrigger"
              value={n.trigger}
              onChange={(trigger) => set({ trigger })}
              empty={say('nobody said')}
              options={terms?.triggers ?? []}
            />
          </>
        )}
      </Fields>
      {kind && <Caution>{kind.care}</Caution>}
      <Row above="s" align="end">
        <TextField
          sx={{ flex: 1, minWidth: 180 }}
          label={kind ? say('Note') : say('What and where')}
          value={n.note}
          onChange={(e) => set({ note: e.target.value })}
          slotProps={{ htmlInput: { name: 'loose', maxLength: 400 } }}
        />
        {qualified && !old && (!kind || kind.ends) && (
          <FormControlLabel
            control={
              <Checkbox checked={n.later} onChange={(e) => set({ later: e.target.checked })} slotProps={{ input: { name: 'later' } }} />
            }
            label={say('may be energised with it')}
          />
        )}
        <Button disabled={record.isPending || rating === undefined || (kind ? !somewhere : !n.note.trim())} onClick={send}>
          {old ? say('It stands so now') : say('Write it down')}
        </Button>
      </Row>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </div>
  );
}
