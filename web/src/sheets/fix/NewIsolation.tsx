import { styled } from '@mui/material/styles';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useDeadPlan } from '../../api/job';
import { useRecord } from '../../api/records';
import { Boxed, Caution, Fields, P, Quiet, Row, SubHead, Wrong } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { Tick } from '../../parts/Tick';
import { say } from '../../words/words';
import { nothingTyped } from './DeadReadings';
import { Sequence, useSequence } from './Sequence';

const Keys = styled('div')({ display: 'flex', flexWrap: 'wrap', gap: 6, margin: '4px 0 8px' });

const keeping = () => [
  { id: 'lock', name: say('locked and tagged') },
  { id: 'fuse', name: say('fuse withdrawn, kept by me, the way blocked') },
  { id: 'parted', name: say('parted and capped, a lock ahead of it') },
];
type Kept = Of<'OpenedDevice'>['kept'];

interface Props {
  job: Of<'JobView'>;
  corrects?: Of<'Record'>;
  onDone: () => void;
}

/** An isolation: where is worked, what was opened and how it is kept so, the tester proved, every pair read, the tester proved again. */
export function NewIsolation({ job, corrects, onDone }: Props) {
  const { tests, tasks } = job.view;
  const record = useRecord(job.id);
  const first = tasks.find((t) => !t.done && t.dead.length > 0)?.dead[0];
  const [where, setWhere] = useState(first ?? tests.places[0]?.id ?? '');
  const [open, setOpen] = useState<Record<string, Kept>>(Object.fromEntries((corrects?.opens ?? []).map((o) => [o.device, o.kept])));
  const [startOff, setStartOff] = useState<Record<string, boolean>>({});
  const [said, setSaid] = useState(corrects?.stillLive);
  const [why, setWhy] = useState('');
  const plan = useDeadPlan(job, where, Object.keys(open)).data;
  const place = tests.places.find((p) => p.id === where);
  const proof = useSequence(job, place);
  const { kit, setKit } = proof;
  const stillLive = said ?? place?.staysLive ?? '';
  const boards = [...new Set(tests.devices.map((d) => d.at))];
  const next = new Set(plan?.next.map((d) => d.id));
  const press = (id: string) =>
    setOpen(id in open ? Object.fromEntries(Object.entries(open).filter(([k]) => k !== id)) : { ...open, [id]: 'lock' });
  const notes = tests.devices.filter((d) => d.id in open && d.note);
  const save = () => {
    proof.remember();
    record.mutate(
      {
        kind: 'isolation',
        ...kit,
        opens: Object.entries(open).map(([device, kept]) => ({ device, kept, ...(startOff[device] && { startOff: true }) })),
        proofs: proof.proofs,
        ...proof.tester,
        stillLive,
        ...(corrects && { supersedes: corrects.id, note: why }),
      },
      { onSuccess: onDone },
    );
  };
  return (
    <Boxed data-new-isolation>
      <Pick
        label={say('Where you work')}
        name="where"
        value={where}
        empty={say('choose')}
        onChange={(v) => {
          setWhere(v);
          proof.setTyped(nothingTyped);
        }}
        options={tests.places.map((p) => ({ id: p.id, name: p.name }))}
      />
      <SubHead>{say('1. Open, lock and tag')}</SubHead>
      {boards.map((at) => (
        <div key={at}>
          <Quiet>{at || say('At the intake')}</Quiet>
          <Keys>
            {tests.devices
              .filter((d) => d.at === at)
              .map((d) => (
                <Button
                  key={d.id}
                  data-device={d.id}
                  aria-pressed={d.id in open}
                  variant={d.id in open ? 'contained' : 'outlined'}
                  onClick={() => press(d.id)}
                  sx={{ minHeight: 44, ...(next.has(d.id) && { outline: '3px solid var(--copper)', outlineOffset: -4 }) }}
                >
                  {next.has(d.id)
                    ? say('open: {{name}}', { name: d.name })
                    : d.id in open
                      ? say('{{name}}: opened', { name: d.name })
                      : d.name}
                </Button>
              ))}
          </Keys>
        </div>
      ))}
      {notes.map((d) => (
        <Caution key={d.id}>{`${d.name}: ${d.note}`}</Caution>
      ))}
      {place && plan && (
        <P around="xs" data-expected={plan.live.length === 0 ? 'dead' : 'live'}>
          {plan.live.length === 0
            ? say('{{place}} is expected dead. Only the readings make it so.', { place: place.name })
            : say('{{place}} is still live from {{live}}.', { place: place.name, live: plan.live.join(', ') })}{' '}
          {place.staysLive && <b>{say('Stays live: {{stillLive}}.', { stillLive: place.staysLive })}</b>}
        </P>
      )}
      {tests.devices
        .filter((d) => d.id in open)
        .map((d) => (
          <Row key={d.id} above="xs">
            <Pick
              label={say('{{name}} is kept open', { name: d.name })}
              name={`kept-${d.id}`}
              value={open[d.id]}
              help={say('It opens {{poles}}.', { poles: d.poles })}
              onChange={(v) => setOpen({ ...open, [d.id]: (v || 'lock') as Kept })}
              options={keeping()}
            />
            {d.automatic && (
              <Tick
                name={`startOff-${d.id}`}
                label={say('Its automatic start is disabled')}
                checked={!!startOff[d.id]}
                onChange={(v) => setStartOff({ ...startOff, [d.id]: v })}
              />
            )}
          </Row>
        ))}
      <Fields>
        <TextField
          label={say('Lock and tag')}
          value={kit.lockTag}
          helperText={say('whose lock, which tag')}
          onChange={(e) => setKit({ ...kit, lockTag: e.target.value })}
          slotProps={{ htmlInput: { name: 'lockTag' } }}
        />
        <TextField
          label={say('What stays live')}
          value={stillLive}
          helperText={say('name the terminals')}
          onChange={(e) => setSaid(e.target.value)}
          slotProps={{ htmlInput: { name: 'stillLive' } }}
        />
      </Fields>
      <SubHead>{say('2. Prove the tester, read every pair, prove the tester again')}</SubHead>
      <Sequence s={proof} />
      {corrects && (
        <TextField
          fullWidth
          label={say('What was wrong with the record before')}
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          slotProps={{ htmlInput: { name: 'why' } }}
        />
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
      <Row above="s">
        <Button variant="contained" disabled={record.isPending || Object.keys(open).length === 0} onClick={save}>
          {say('Record')}
        </Button>
        <Button onClick={onDone}>{say('Cancel')}</Button>
        <Quiet>{say('What is switched off goes on record whatever is missing; it opens work when every pair was read dead.')}</Quiet>
      </Row>
    </Boxed>
  );
}
