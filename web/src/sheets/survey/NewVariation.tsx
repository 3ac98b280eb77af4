import { styled } from '@mui/material/styles';
import { Button, TextField } from '@mui/material';
import { useRef, useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { keep, queries, vary } from '../../api/job';
import { useFrame } from '../../frame/Shell';
import { figure, money } from '../../parts/figure';
import { Bare, Boxed, Fields, Heading, Item, P, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Pick } from '../../parts/Pick';
import { useUnits } from '../../parts/units';
import { msg, say } from '../../words/words';
import { ReadLine, useReading } from './ShorthandEntry';

const Agreement = styled(Fields)({ gridTemplateColumns: 'repeat(auto-fit, minmax(min(100%, 240px), 1fr))' });
const Line = styled(Row)({ padding: '3px 0', flexWrap: 'nowrap', alignItems: 'start' });

/** Why agreed points change, by the id of the reason. */
export const reasons: Record<string, string> = {
  wished: msg('The client wants it'),
  found: msg('Found during the work'),
  corrected: msg('The survey had it wrong'),
};

/** A change of the agreed points: told in shorthand, worked out with all that it brings, and accepted by a person before it is anything. */
export function NewVariation({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const [room, setRoom] = useState('');
  const [text, setText] = useState('');
  const [reason, setReason] = useState('wished');
  const [person, setPerson] = useState('');
  const [change, setChange] = useState<Of<'VariationChange'>>();
  const [wrong, setWrong] = useState('');
  const [busy, setBusy] = useState(false);
  const key = useRef(newKey());
  const reading = useReading(j.practice, text, '');
  const ask = async (accept: boolean) => {
    setBusy(true);
    try {
      const a = await vary(job.id, { room, text, accept, person, reason, note: '' }, accept ? key.current : newKey());
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
      <Heading>{say('Something changes')}</Heading>
      <Agreement>
        <Pick
          label={say('Room')}
          name="variation-room"
          value={room}
          onChange={(r) => {
            setRoom(r);
            setChange(undefined);
          }}
          options={j.rooms.map((r) => ({ id: r.id, name: r.name }))}
        />
        <TextField
          label={say('The change, in shorthand')}
          value={text}
          placeholder={say('2 double socket @450, - wall light, > tv')}
          onChange={(e) => {
            setText(e.target.value);
            setChange(undefined);
          }}
          onKeyDown={(e) => e.key === 'Enter' && void ask(false)}
          slotProps={{ htmlInput: { name: 'variation', spellCheck: false } }}
        />
        <Pick
          label={say('Why')}
          name="variation-reason"
          value={reason}
          onChange={setReason}
          options={Object.entries(reasons).map(([id, name]) => ({ id, name: say(name) }))}
        />
      </Agreement>
      <Row above="s">
        <Button disabled={!room || !text || busy} onClick={() => void ask(false)}>
          {say('What does it bring?')}
        </Button>
      </Row>
      <div aria-live="polite">{text && reading.data?.map((l, i) => <ReadLine key={i} line={l} />)}</div>
      {wrong && <Wrong>{wrong}</Wrong>}
      {change && (
        <Boxed data-consequence tone="copper" above="s">
          <b>
            {j.rooms.find((r) => r.id === room)?.name}: {change.summary.join(', ')}
          </b>
          <Brought change={change} />
          <Row align="end">
            <TextField
              sx={{ maxWidth: 260 }}
              label={say('Accepted by')}
              value={person}
              onChange={(e) => setPerson(e.target.value)}
              slotProps={{ htmlInput: { name: 'accepted-by' } }}
            />
            <Button variant="contained" disabled={busy || !person.trim() || job.view.frozen} onClick={() => void ask(true)}>
              {say('Accept the variation')}
            </Button>
          </Row>
        </Boxed>
      )}
    </Section>
  );
}

/** What a variation brings: its circuits, what else follows, the order and the price. */
function Brought({ change }: { change: Of<'VariationChange'> }) {
  const { me } = useFrame();
  const breaks = change.effects.filter((e) => e.kind === 'breaks');
  const others = change.effects.filter((e) => e.kind !== 'breaks');
  return (
    <>
      {change.circuits.length > 0 && (
        <Bare aria-label={say('Circuits that it changes')}>
          {change.circuits.map((c) => (
            <Item key={c.id} data-varied={c.id} ruled pad="xs">
              <b>{c.name}</b> {c.new ? say('new') : c.gone ? say('falls away') : ''} <CircuitFigures c={c} />
            </Item>
          ))}
        </Bare>
      )}
      {breaks.map((e, i) => (
        <Line key={i} data-breaks>
          <Mark verdict="fail" size={14} />
          <span>{e.summary}</span>
        </Line>
      ))}
      {others.map((e, i) => (
        <Line key={i}>
          <Mark verdict={e.known ? 'pass' : 'unknown'} size={14} />
          <span>{e.summary}</span>
        </Line>
      ))}
      {change.lines.length > 0 && (
        <Scroll>
          <SheetTable aria-label={say('What the order gains and loses')}>
            <thead>
              <tr>
                <th scope="col">{say('Order')}</th>
                <th scope="col">{say('Quantity')}</th>
                <th scope="col">{say('Price')}</th>
              </tr>
            </thead>
            <tbody>
              {change.lines.map((l) => (
                <tr key={l.key}>
                  <td>
                    {l.name}
                    {l.bought > 0 && <Quiet> {say('{{n}} bought already', { n: figure(l.bought, l.unit) })}</Quiet>}
                  </td>
                  <td>{(l.more > 0 ? '+' : '−') + figure(Math.abs(l.more), l.unit)}</td>
                  <td>{l.cost === null || l.cost === undefined ? say('not known') : money(l.cost, me.currency)}</td>
                </tr>
              ))}
            </tbody>
          </SheetTable>
        </Scroll>
      )}
      <P around="s">
        {say('Price:')}{' '}
        <b>
          {change.cost === null || change.cost === undefined
            ? say('not known; what is known of it comes to {{sum}}', { sum: money(change.atLeast, me.currency) })
            : money(change.cost, me.currency)}
        </b>
        {` · ${figure(change.hours, 'person-hours')}`}
      </P>
    </>
  );
}

function CircuitFigures({ c }: { c: Of<'CircuitChange'> }) {
  const units = useUnits();
  const said = [
    c.gains.length > 0 && say('gains {{points}}', { points: c.gains.join(', ') }),
    c.loses.length > 0 && !c.gone && say('loses {{points}}', { points: c.loses.join(', ') }),
    c.cableM !== 0 && say('{{m}} of cable', { m: (c.cableM > 0 ? '+' : '−') + units.show(Math.abs(c.cableM), 'm') }),
    c.new && c.device,
    c.new && c.conductor,
    c.new && c.way > 0 && say('way {{n}}', { n: c.way }),
  ].filter(Boolean);
  return <Quiet>{said.join(' · ')}</Quiet>;
}
