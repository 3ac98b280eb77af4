import { Button, TextField } from '@mui/material';
import { useRef, useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { keep, queries, useCase, useRecord, vary } from '../../api/job';
import { useFrame } from '../../frame/Shell';
import { figure, moment, money } from '../../parts/figure';
import { Fields, Heading, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Pick } from './Existing';
import { ReadLine, useReading } from './ShorthandEntry';

/** What was agreed, what the client has changed since, and what each change brings before it is accepted. For the table, client beside. */
export function Scope({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const sheet = useCase(job.id).data;
  const record = useRecord(job.id);
  const { me } = useFrame();
  const [person, setPerson] = useState(j.site.customer);
  const scope = sheet?.scope;
  if (!scope) return <p>Comparing …</p>;
  if (!scope.agreed)
    return (
      <Section>
        <Heading>The scope is not agreed yet</Heading>
        <p>
          Until it is, points are simply edited. Once it is agreed, the walk as it stands is kept to compare with, and every change by the
          client is a variation with its consequences.
        </p>
        <Row style={{ alignItems: 'end' }}>
          <TextField sx={{ maxWidth: 280 }} label="Who agrees" value={person} onChange={(e) => setPerson(e.target.value)} />
          <Button
            variant="contained"
            disabled={job.view.frozen || j.rooms.length === 0}
            onClick={() => record.mutate({ kind: 'scope', person, note: 'as walked' })}
          >
            Agree on the walk as it stands
          </Button>
          {j.rooms.length === 0 && <Quiet>There is nothing to agree on: the walk has no rooms.</Quiet>}
        </Row>
        {record.error && <Wrong>{record.error.message}</Wrong>}
      </Section>
    );
  return (
    <>
      <p>
        Agreed by <b>{scope.agreed.person}</b>, written down by {scope.agreed.by}, {moment(scope.agreed.at)}.{' '}
        {scope.unagreed > 0 && (
          <>
            <Mark verdict="caution" size={13} /> {scope.unagreed} differences were edited into the walk without a variation.
          </>
        )}
      </p>
      <NewVariation job={job} j={j} />
      <Section>
        <Heading
          aside={
            scope.variations.length > 0 &&
            `${scope.variations.length}, ${money(scope.cost, me.currency)}${scope.unpriced ? `, ${scope.unpriced} without a price` : ''}`
          }
        >
          Variations
        </Heading>
        {scope.variations.length === 0 && <p>None since the scope was agreed.</p>}
        {scope.variations.map((v) => (
          <div key={v.id} data-variation style={{ borderBottom: '1px solid var(--rule)', padding: '6px 0' }}>
            <Row>
              <b style={{ flex: '1 1 240px' }}>
                {j.rooms.find((r) => r.id === v.room)?.name ?? 'a room that is gone'}: {v.note}
              </b>
              <span>{v.cost === null || v.cost === undefined ? 'not priced' : money(v.cost, me.currency)}</span>
            </Row>
            <Quiet>
              Accepted by {v.person}, written down by {v.by}, {moment(v.at)}.
            </Quiet>
            <ul style={{ margin: '4px 0', paddingLeft: 18 }}>
              {v.effects?.map((e, i) => (
                <li key={i}>{e}</li>
              ))}
            </ul>
          </div>
        ))}
      </Section>
      <Section>
        <Heading>Against the scope that was first agreed</Heading>
        {scope.differences.length === 0 ? (
          <p>Nothing differs.</p>
        ) : (
          <Scroll>
            <SheetTable aria-label="Differences from the agreed scope">
              <thead>
                <tr>
                  <th scope="col">Room</th>
                  <th scope="col">Point</th>
                  <th scope="col">Agreed</th>
                  <th scope="col">Now</th>
                </tr>
              </thead>
              <tbody>
                {scope.differences.map((d, i) => (
                  <tr key={i}>
                    <td>{d.room}</td>
                    <td>{d.name}</td>
                    <td>{counts(d.was)}</td>
                    <td>{counts(d.is)}</td>
                  </tr>
                ))}
              </tbody>
            </SheetTable>
          </Scroll>
        )}
      </Section>
    </>
  );
}

const counts = (c: Of<'PointCount'>) =>
  [c.new && `${c.new} new`, c.kept && `${c.kept} stay`, c.moved && `${c.moved} moved`, c.removed && `${c.removed} go`]
    .filter(Boolean)
    .join(', ') || 'none';

function NewVariation({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const { me } = useFrame();
  const [room, setRoom] = useState('');
  const [text, setText] = useState('');
  const [person, setPerson] = useState('');
  const [change, setChange] = useState<Of<'VariationChange'>>();
  const [wrong, setWrong] = useState('');
  const [busy, setBusy] = useState(false);
  const key = useRef(newKey());
  const reading = useReading(j.practice, text, '');
  const ask = async (accept: boolean) => {
    setBusy(true);
    try {
      const a = await vary(job.id, { room, text, accept, person, note: '' }, accept ? key.current : newKey());
      setWrong('');
      if (a.job) {
        keep(queries, a.job);
        key.current = newKey();
        setChange(undefined);
        setText('');
      } else setChange(a.change);
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
      if (!accept) setChange(undefined);
    }
    setBusy(false);
  };
  return (
    <Section>
      <Heading>The client changes something</Heading>
      <Fields style={{ gridTemplateColumns: 'minmax(min(100%, 160px), 220px) minmax(min(100%, 260px), 1fr)' }}>
        <Pick
          label="Room"
          name="variation-room"
          value={room}
          onChange={(r) => {
            setRoom(r);
            setChange(undefined);
          }}
          options={j.rooms.map((r) => ({ id: r.id, name: r.name }))}
        />
        <TextField
          label="The change, in shorthand"
          value={text}
          placeholder="2 double socket @450, - wall light, > tv"
          onChange={(e) => {
            setText(e.target.value);
            setChange(undefined);
          }}
          onKeyDown={(e) => e.key === 'Enter' && void ask(false)}
          slotProps={{ htmlInput: { name: 'variation', spellCheck: false } }}
        />
      </Fields>
      <Row style={{ marginTop: 6 }}>
        <Button disabled={!room || !text || busy} onClick={() => void ask(false)}>
          What does it bring?
        </Button>
      </Row>
      <div aria-live="polite">{text && reading.data?.map((l, i) => <ReadLine key={i} line={l} />)}</div>
      {wrong && <Wrong>{wrong}</Wrong>}
      {change && (
        <div data-consequence style={{ border: '1px solid var(--copper)', padding: 12, marginTop: 8 }}>
          <b>
            {j.rooms.find((r) => r.id === room)?.name}: {change.says.join(', ')}
          </b>
          {change.effects.map((e, i) => (
            <Row key={i} style={{ padding: '3px 0', flexWrap: 'nowrap', alignItems: 'start' }}>
              <Mark verdict={e.known ? 'pass' : 'unknown'} size={14} />
              <span>{e.says}</span>
            </Row>
          ))}
          <p style={{ margin: '6px 0' }}>
            Price: <b>{change.cost === null ? 'not yet known' : money(change.cost, me.currency)}</b>
            {change.hours !== null && ` · ${figure(change.hours, 'person-hours')}`}
          </p>
          <Row style={{ alignItems: 'end' }}>
            <TextField
              sx={{ maxWidth: 260 }}
              label="Accepted by"
              value={person}
              onChange={(e) => setPerson(e.target.value)}
              slotProps={{ htmlInput: { name: 'accepted-by' } }}
            />
            <Button variant="contained" disabled={busy || !person.trim() || job.view.frozen} onClick={() => void ask(true)}>
              Accept the variation
            </Button>
          </Row>
        </div>
      )}
    </Section>
  );
}
