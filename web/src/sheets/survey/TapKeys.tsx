import { msg, say } from '../../words/words';
import { Button } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { P, Quiet, Row } from '../../parts/layout';
import { freshPoint } from './points';

const Keys = styled('div')({
  display: 'grid',
  gridTemplateColumns: 'repeat(auto-fill, minmax(104px, 1fr))',
  gap: 6,
  '& button': {
    font: 'inherit',
    fontWeight: 600,
    lineHeight: 1.15,
    color: 'var(--ink)',
    background: 'var(--sheet)',
    border: '1px solid var(--rule2)',
    minHeight: 58,
    padding: '4px 6px',
    cursor: 'pointer',
    position: 'relative',
  },
  '& button[data-count]:not([data-count="0"])': { borderColor: 'var(--copper)', borderWidth: 2 },
  '& b': { display: 'block', color: 'var(--copper)' },
});

const states: { id: Of<'RoomPoint'>['state']; name: string }[] = [
  { id: 'new', name: 'new' },
  { id: 'kept', name: 'stays' },
  { id: 'moved', name: 'moved' },
  { id: 'removed', name: 'goes' },
];

const families: [string, string[]][] = [
  [msg('Sockets'), ['sockets']],
  [msg('Lights'), ['lighting']],
  [msg('Kitchen, appliances'), ['cooking', 'appliances', 'fans']],
  [msg('Heat, water, air'), ['heating', 'water', 'cooling', 'fans']],
  [msg('Media, door, alarms'), ['media', 'entry', 'alarms']],
  [msg('Outdoor, car, other'), ['outdoor', 'cars', 'sources', 'spare']],
];

/** Big keys for a gloved thumb: each press counts one more point into the room. For the walk, on a phone. */
export function TapKeys({ part }: { part: Part<Of<'Room'>> }) {
  const terms = useTerms().data;
  const [family, setFamily] = useState(0);
  const [state, setState] = useState<Of<'RoomPoint'>['state']>('new');
  const [switching, setSwitching] = useState('');
  const [last, setLast] = useState<Of<'RoomPoint'>[]>();
  const points = part.value.points;
  const same = (p: Of<'RoomPoint'>, kind: string) => p.kind === kind && p.state === state && (family !== 1 || p.switching === switching);
  const tap = (kind: string) => {
    setLast(points);
    const i = points.findIndex((p) => same(p, kind));
    const fresh = { ...freshPoint(kind, state), switching: family === 1 ? switching : '' };
    part.save('points', i < 0 ? [...points, fresh] : points.map((p, k) => (k === i ? { ...p, count: p.count + 1 } : p)));
  };
  const kinds = terms?.survey.kinds.filter((k) => families[family][1].includes(k.family)) ?? [];
  return (
    <div data-keys={part.name}>
      <Row role="group" aria-label={say('What the job does with it')} below="s" gap="s">
        {states.map((s) => (
          <Button
            key={s.id}
            variant={s.id === state ? 'contained' : 'outlined'}
            aria-pressed={s.id === state}
            onClick={() => setState(s.id)}
          >
            {s.name}
          </Button>
        ))}
        <Button
          disabled={!last || part.frozen}
          onClick={() => {
            if (last) part.save('points', last);
            setLast(undefined);
          }}
        >
          {say('Take back')}
        </Button>
      </Row>
      <Row role="group" aria-label={say('Kind of point')} below="s" gap="xs">
        {families.map(([name], i) => (
          <Button key={name} aria-pressed={i === family} variant={i === family ? 'contained' : 'outlined'} onClick={() => setFamily(i)}>
            {say(name)}
          </Button>
        ))}
      </Row>
      {family === 1 && (
        <Row role="group" aria-label={say('Switched')} below="s" gap="xs">
          {['', ...(terms?.survey.switching ?? [])].map((s) => (
            <Button
              key={s}
              aria-pressed={s === switching}
              variant={s === switching ? 'contained' : 'outlined'}
              onClick={() => setSwitching(s)}
            >
              {s || say('not said')}
            </Button>
          ))}
        </Row>
      )}
      <Keys>
        {kinds.map((k) => {
          const n = points.filter((p) => same(p, k.id)).reduce((sum, p) => sum + p.count, 0);
          return (
            <button key={k.id} type="button" data-kind={k.id} data-count={n} disabled={part.frozen} onClick={() => tap(k.id)}>
              {k.name}
              {n > 0 && <b>{n}</b>}
            </button>
          );
        })}
      </Keys>
      <P around="s">
        <Quiet>{say('Each press counts one more. Heights, walls and notes are written in the line or the table.')}</Quiet>
      </P>
    </div>
  );
}
