import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCase } from '../../api/job';
import { useRecord } from '../../api/records';
import { Bare, Caution, Fields, Heading, Item, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Pick } from '../../parts/Pick';
import { say } from '../../words/words';
import { label } from '../circuits/run/run';

const atBoard = 'board'; // no box has this id

interface Tried {
  key: string;
  name: string;
  count: number;
  about: { room: string; point: string; box: string };
}

/** Tracing the circuits that are there: a device is switched off, or a run parted at a box, and what is dead is ticked. */
export function TraceCircuits({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const tracing = useCase(job.id).data?.tracing;
  const record = useRecord(job.id);
  const [circuit, setCircuit] = useState('');
  const [box, setBox] = useState('');
  const [dead, setDead] = useState<Record<string, number>>({});
  const [tester, setTester] = useState('');
  if (!tracing || tracing.circuits.length === 0) return null;
  const boxes = j.circuits.find((k) => k.id === circuit)?.serves.boxes ?? [];
  const tried: Tried[] = box
    ? boxes.filter((b) => b.id !== box).map((b) => ({ key: b.id, name: named(b), count: 1, about: { room: '', point: '', box: b.id } }))
    : tracing.points.map((p) => ({
        key: p.room + p.point,
        name: `${p.roomName}, ${p.name}`,
        count: p.count,
        about: { room: p.room, point: p.point, box: '' },
      }));
  const save = () =>
    record.mutate(
      {
        kind: 'trace',
        circuit,
        subject: box,
        instrument: tester,
        traced: tried.filter((t) => t.key in dead).map((t) => ({ ...t.about, dead: dead[t.key] ?? 0, live: t.count - (dead[t.key] ?? 0) })),
      },
      { onSuccess: () => setDead({}) },
    );
  return (
    <Section data-tracing>
      <Heading
        aside={
          <Quiet>
            {tracing.open > 0 ? say('{{n}} points still to be found', { n: tracing.open }) : say('every point that is there is found')}
          </Quiet>
        }
      >
        {say('What feeds what is there')}
      </Heading>
      <Caution>
        {say(
          'Dead here tells which circuit feeds it and nothing more: before it is worked on it is isolated and proved dead by itself. ' +
            'What was not tried, or not found, counts as live.',
        )}
      </Caution>
      {tracing.next && <p>{tracing.next}</p>}
      <Bare aria-label={say('Circuits that are there')}>
        {tracing.circuits.map((c) => (
          <Item key={c.id} data-traced={c.id} ruled pad="xs">
            <Mark verdict={c.clash ? 'fail' : c.traced ? 'pass' : 'unknown'} size={13} /> <b>{c.name}</b>{' '}
            <Quiet>
              {c.traced ? say('{{n}} points dead with it, {{by}}, {{at}}', { n: c.dead, by: c.by, at: c.at }) : say('not traced yet')}
              {c.order.length > 0 && say(' · in order: ') + c.order.map((s) => s.names.join(say(' or '))).join(' → ')}
            </Quiet>
            {(c.clash || c.tells) && <div>{c.clash || c.tells}</div>}
          </Item>
        ))}
      </Bare>
      {tracing.points
        .filter((p) => p.clash)
        .map((p) => (
          <p key={p.room + p.point} data-clash>
            <Mark verdict="fail" size={13} /> {`${p.roomName}, ${p.name}`}: {p.says}
          </p>
        ))}
      <Fields above="s">
        <Pick
          label={say('Circuit that is off')}
          name="trace-circuit"
          value={circuit}
          onChange={(id) => {
            setCircuit(id);
            setBox('');
            setDead({});
          }}
          options={tracing.circuits.map((c) => ({ id: c.id, name: c.name }))}
        />
        <Pick
          label={say('Opened at')}
          name="trace-box"
          value={box || atBoard}
          onChange={(id) => {
            setBox(id === atBoard ? '' : id);
            setDead({});
          }}
          options={[{ id: atBoard, name: say('its device at the board') }, ...boxes.map((b) => ({ id: b.id, name: named(b) }))]}
        />
        <TextField
          label={say('Told dead by')}
          value={tester}
          placeholder={say('two-pole tester, lamp, socket tester')}
          onChange={(e) => setTester(e.target.value)}
          slotProps={{ htmlInput: { name: 'trace-tester' } }}
        />
      </Fields>
      {circuit && (
        <Bare aria-label={say('What was tried')}>
          {tried.map((t) => (
            <Item key={t.key} data-try={t.name} ruled pad="xs">
              <TryPoint t={t} dead={dead[t.key]} onDead={(n) => setDead(changed(dead, t.key, n))} />
            </Item>
          ))}
        </Bare>
      )}
      <Row above="s">
        <Button
          variant="contained"
          disabled={!circuit || Object.keys(dead).length === 0 || job.view.frozen || record.isPending}
          onClick={save}
        >
          {say('Save the trace')}
        </Button>
      </Row>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Section>
  );
}

const named = (b: Of<'Box'>) => [label(b), b.name].filter(Boolean).join(' ');

function changed(dead: Record<string, number>, key: string, n: number | undefined) {
  const next = { ...dead };
  if (n === undefined) delete next[key];
  else next[key] = n;
  return next;
}

/** One entry that was tried: dead, live, or so many of it dead; pressed again it is not tried. */
function TryPoint({ t, dead, onDead }: { t: Tried; dead?: number; onDead: (n?: number) => void }) {
  const choice = (n: number, name: string) => (
    <Button
      key={n}
      size="small"
      variant={dead === n ? 'contained' : 'outlined'}
      aria-pressed={dead === n}
      onClick={() => onDead(dead === n ? undefined : n)}
    >
      {name}
    </Button>
  );
  const some = t.count > 1 ? Array.from({ length: t.count - 1 }, (_, i) => i + 1) : [];
  return (
    <Row>
      <span>{t.count > 1 ? `${t.count} × ${t.name}` : t.name}</span>
      {choice(0, say('live'))}
      {some.length < 8 && some.map((n) => choice(n, say('{{n}} dead', { n })))}
      {choice(t.count, t.count > 1 ? say('all dead') : say('dead'))}
    </Row>
  );
}
