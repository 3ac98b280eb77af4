import { styled } from '@mui/material/styles';
import { msg, say } from '../../words/words';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { Bare, Caution, Heading, Quiet, Section } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { rehung } from './boxes';
import { StringDrawing } from './StringDrawing';

const BoxLine = styled('li')({ display: 'flex', gap: 8, padding: '2px 0' });

const devices = [
  { id: 'plain', name: 'outlet' },
  { id: 'gfci', name: msg('ground-fault outlet') },
  { id: 'two-slot', name: msg('two-slot outlet') },
  { id: 'none', name: msg('joint only') },
];
const terminals = [
  { id: '', name: msg('not read') },
  { id: 'line', name: msg('LINE') },
  { id: 'load', name: msg('LOAD') },
];
const lines = [
  { id: '', name: '–' },
  { id: 'a', name: msg('first') },
  { id: 'b', name: msg('second') },
  { id: 'both', name: msg('both') },
];

/** The boxes of a string in their order, what is on LINE and LOAD of each device, and what that protects. For the bench and the wall. */
export function OutletString({
  part,
  boxes,
  off,
}: {
  part: Part<Of<'Circuit'>>;
  boxes: Of<'BoxReport'>[];
  off?: (id: string) => void; // takes a box off a run whose route says what leads to it
}) {
  const terms = useTerms().data;
  const list = part.value.serves.boxes;
  // Taking a box out leaves none hanging on it, and no stretch of the route that leads to it.
  const joined: Part<Of<'Circuit'>> = {
    ...part,
    save: (path, value) => {
      if (path !== 'serves.boxes') return part.save(path, value);
      const after = value as Of<'Box'>[];
      const gone = list.filter((b) => !after.some((a) => a.id === b.id));
      if (off && gone.length > 0 && part.value.route.segments.some((s) => s.to)) return gone.forEach((b) => off(b.id));
      part.save(path, rehung(list, after));
    },
  };
  const fresh = (rows: Of<'Box'>[]): Of<'Box'> => {
    let n = rows.length + 1;
    while (rows.some((b) => b.id === `b${n}`)) n++;
    const last = rows.at(-1);
    return {
      id: `b${n}`,
      tag: 0,
      room: '',
      point: '',
      accessible: null,
      takes: 0,
      sealed: null,
      line: '',
      through: null,
      name: say('Box {{n}}', { n }),
      place: last?.place ?? part.value.serves.place,
      device: 'plain',
      from: last?.id ?? '',
      side: last?.device === 'gfci' ? '' : 'line',
      feed: '',
      ratingA: part.value.protection.ratingA === 15 ? 15 : 20,
      single: false,
      ground: null,
      shuttered: false,
      weather: false,
      replaces: false,
      split: false,
      heightMM: 457.2,
      sinkMM: null,
      volumeML: 0,
      cables: 0,
      yokes: 0,
      clamps: false,
    };
  };
  const others = [{ id: '', name: say('the panel') }, ...list.map((b) => ({ id: b.id, name: b.name }))];
  return (
    <Section>
      <Heading aside={<Quiet>{say('in the order in which the cable reaches them')}</Quiet>}>{say('Run of outlets')}</Heading>
      <Caution>
        {say(
          'LINE is where the supply arrives, by the marking on the device: on one make it is above, on another below. ' +
            'Prove dead before a device is drawn out of its box.',
        )}
      </Caution>
      {list.length > 0 && <StringDrawing boxes={list} reports={boxes} device={part.value.protection.rcdType !== ''} />}
      {boxes.length > 0 && (
        <Bare around="s" aria-label={say('What each box needs and has')}>
          {boxes.map((b) => (
            <BoxLine key={b.id} data-box={b.id} data-verdict={b.verdict}>
              <Mark verdict={b.verdict} />
              <span>
                <b>{list.find((x) => x.id === b.id)?.name}</b>: {b.summary}
                {b.needs.length > 0 && <Quiet> {say('Needs {{needs}}.', { needs: b.needs.join(', ') })}</Quiet>}
                {b.labels.length > 0 && (
                  <Quiet> {say('Needs label: {{labels}}.', { labels: b.labels.map((l) => `“${l}”`).join(', ') })}</Quiet>
                )}
                {b.darkens.length > 1 && (
                  <Quiet>
                    {say(' Also lost when it trips: {{darkens}}.', {
                      darkens: b.darkens
                        .filter((id) => id !== b.id)
                        .map((id) => list.find((x) => x.id === id)?.name ?? id)
                        .join(', '),
                    })}
                  </Quiet>
                )}
              </span>
            </BoxLine>
          ))}
        </Bare>
      )}
      <EditTable
        part={joined}
        path="serves.boxes"
        label={say('Boxes of the run')}
        add={say('Add a box')}
        newRow={fresh}
        columns={[
          { key: 'name', label: say('Box'), width: 150, keep: true },
          {
            key: 'place',
            label: say('Kind of place'),
            kind: 'choice',
            width: 170,
            keep: true,
            options: [{ id: '', name: '–' }, ...(terms?.places ?? [])],
          },
          { key: 'device', label: say('Holds'), kind: 'choice', width: 150, keep: true, options: devices },
          { key: 'from', label: say('Fed from'), kind: 'choice', width: 150, keep: true, options: others },
          {
            key: 'side',
            label: say('Off its'),
            kind: 'choice',
            width: 90,
            keep: true,
            options: terminals,
            hide: (b) => list.find((x) => x.id === b.from)?.device !== 'gfci',
          },
          {
            key: 'feed',
            label: say('Arrives on'),
            kind: 'choice',
            width: 96,
            keep: true,
            options: terminals,
            hide: (b) => b.device !== 'gfci',
          },
          ...(part.value.protection.shared.is
            ? [
                { key: 'line' as const, label: say('Line'), kind: 'choice' as const, width: 90, keep: true, options: lines },
                {
                  key: 'through' as const,
                  label: say('Neutral through the device'),
                  yesNo: true,
                  width: 110,
                  keep: true,
                  hide: (b: Of<'Box'>) => b.device === 'none',
                },
              ]
            : []),
          { key: 'ground', label: say('Ground there'), yesNo: true, width: 100, keep: true },
          { key: 'ratingA', label: say('Outlet'), unit: 'A', kind: 'number', width: 54, keep: true, hide: (b) => b.device === 'none' },
          { key: 'single', label: say('Single'), kind: 'check', width: 56, hide: (b) => b.device === 'none' },
          { key: 'shuttered', label: say('Shutters'), kind: 'check', width: 60, hide: (b) => b.device === 'none' },
          { key: 'weather', label: say('Weather'), kind: 'check', width: 60, hide: (b) => b.device === 'none' },
          { key: 'replaces', label: say('Replaces one'), kind: 'check', width: 64, hide: (b) => b.device === 'none' },
          { key: 'split', label: say('Tab removed'), kind: 'check', width: 50, hide: (b) => b.device === 'none' },
          { key: 'sinkMM', label: say('To the sink'), unit: 'mm', kind: 'number', optional: true, width: 64, keep: true },
          { key: 'heightMM', label: say('Height'), unit: 'mm', kind: 'number', width: 60, keep: true },
          { key: 'volumeML', label: say('Box'), unit: 'ml', kind: 'number', zero: true, width: 60, keep: true },
          { key: 'cables', label: say('Cables'), kind: 'number', zero: true, width: 56, keep: true },
          {
            key: 'yokes',
            label: say('Devices'),
            kind: 'number',
            zero: true,
            width: 58,
            keep: true,
            hide: (b) => b.device === 'none',
          },
          { key: 'clamps', label: say('Clamps'), kind: 'check', width: 54 },
        ]}
      />
      <Quiet>
        {say(
          'Leave the number of cables empty to count it from the run, and of devices for one; an empty volume is not yet read off the box.',
        )}
      </Quiet>
    </Section>
  );
}
