import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms, useWalk } from '../../api/job';
import { Link } from 'react-router';
import { Mark } from '../../parts/Mark';
import { Heading, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import type { Working } from '../../parts/CheckList';
import { Controls } from './Controls';
import { LowVoltage } from './LowVoltage';
import { Questions } from './Questions';
import { RoomCard } from './RoomCard';
import { ShorthandEntry } from './ShorthandEntry';
import { ShorthandGuide } from './ShorthandGuide';

const Full = styled('div')({ width: '100%' });
const Keys = styled('div')({ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(104px, 1fr))', gap: 6 });

/** The walk through the house: typed or tapped, room after room, with the tally running along. For one hand, standing. */
export function Walk({ job, j, working }: { job: Of<'JobView'>; j: Of<'Job'>; working: Working }) {
  const [open, setOpen] = useState<string>();
  const [mode, setMode] = useState('keys');
  const [guide, setGuide] = useState(false);
  const walk = job.view.walk;
  const last = j.rooms.at(-1);
  const house = walk.house.total;
  const agreed = j.records.find((r) => r.kind === 'scope');
  return (
    <>
      {agreed && (
        <p data-agreed>
          <Mark verdict="caution" size={13} />{' '}
          {say('The points were agreed by {{person}} on {{day}}. A change of them is a variation, worked out and accepted first: ', {
            person: agreed.person,
            day: agreed.at.slice(0, 10),
          })}
          <Link to={`/jobs/${job.id}/survey?leaf=scope`}>{say('Scope and variations')}</Link>
        </p>
      )}
      <Section>
        <ShorthandEntry job={job} room={last?.id} roomName={last?.name} floor={last?.floor ?? ''} />
        <Row above="xs">
          <StartRoom job={job} onOpen={(id) => setOpen(id)} />
          <Button onClick={() => setGuide(!guide)} aria-expanded={guide}>
            {say('How to write it')}
          </Button>
        </Row>
        {guide && <ShorthandGuide practice={j.practice} />}
      </Section>
      <Section>
        <Heading
          aside={
            <span data-total>
              {say('{{rooms}} rooms, {{new}} points', { rooms: j.rooms.length, new: house.new + house.kept + house.moved })}
              {house.removed > 0 && say(', {{removed}} to remove', { removed: house.removed })}
            </span>
          }
        >
          {say('Rooms, in the order of the survey')}
        </Heading>
        {j.rooms.length === 0 && <p>{say('No room yet. Type the first one above, as you stand in it.')}</p>}
        {j.rooms.map((r, i) => (
          <RoomCard
            key={r.id}
            job={job}
            room={r}
            view={walk.rooms.find((v) => v.id === r.id)}
            open={open === r.id}
            onOpen={() => setOpen(open === r.id ? undefined : r.id)}
            before={j.rooms[i - 1]}
            after={j.rooms[i + 1]}
            working={working}
            mode={mode}
            setMode={setMode}
          />
        ))}
      </Section>
      <Questions job={job} j={j} />
      <Tally walk={walk} />
      <Controls controls={walk.controls} />
      <LowVoltage of={walk.lowVoltage} />
    </>
  );
}

/** Starts a room by pressing its kind, without typing. */
function StartRoom({ job, onOpen }: { job: Of<'JobView'>; onOpen: (id: string) => void }) {
  const [choosing, setChoosing] = useState(false);
  const terms = useTerms().data;
  const walk = useWalk(job.id);
  const rooms = job.view.job?.rooms ?? [];
  const floor = rooms.at(-1)?.floor ?? '';
  const [on, setOn] = useState<string>();
  const start = (name: string) => {
    let n = 1;
    let full = name;
    while (rooms.some((r) => r.name === full)) full = `${name} ${++n}`;
    walk.mutate(
      { text: `${full} [${on ?? (floor || 'ground')}]:` },
      {
        onSuccess: (a) => {
          setChoosing(false);
          const made = a.view.job?.rooms.find((r) => r.name === full);
          if (made) onOpen(made.id);
        },
      },
    );
  };
  if (!choosing)
    return (
      <Button disabled={job.view.frozen} onClick={() => setChoosing(true)}>
        {say('Add room')}
      </Button>
    );
  return (
    <Full>
      <Row role="group" aria-label={say('Floor')} below="s" gap="xs">
        {terms?.survey.floors.map((f) => (
          <Button
            key={f}
            variant={(on ?? floor) === f ? 'contained' : 'outlined'}
            aria-pressed={(on ?? floor) === f}
            onClick={() => setOn(f)}
          >
            {f}
          </Button>
        ))}
      </Row>
      <Keys>
        {terms?.survey.rooms.map((r) => (
          <Button key={r.id} sx={{ minHeight: 48 }} onClick={() => start(r.name)}>
            {r.name}
          </Button>
        ))}
        <Button sx={{ minHeight: 48 }} onClick={() => setChoosing(false)}>
          {say('Cancel')}
        </Button>
      </Keys>
      {walk.error && <Wrong>{walk.error.message}</Wrong>}
    </Full>
  );
}

/** How many points of each kind, by floor and in the house. */
function Tally({ walk }: { walk: Of<'Walked'> }) {
  const { floors, house } = walk;
  if (house.counts.length === 0) return null;
  const of = (g: Of<'PointGroup'>, kind: string) => {
    const c = g.counts.find((x) => x.kind === kind);
    return c ? c.new + c.kept + c.moved : 0;
  };
  return (
    <Section>
      <Heading>{say('Tally')}</Heading>
      <Scroll>
        <SheetTable aria-label={say('Points by kind and floor')}>
          <thead>
            <tr>
              <th scope="col">{say('Point')}</th>
              {floors.map((f) => (
                <th key={f.id} scope="col" className="num">
                  {f.name || say('floor not said')}
                </th>
              ))}
              <th scope="col" className="num">
                {say('House')}
              </th>
              <th scope="col" className="num">
                {say('new')}
              </th>
              <th scope="col" className="num">
                {say('stay')}
              </th>
              <th scope="col" className="num">
                {say('moved')}
              </th>
              <th scope="col" className="num">
                {say('go')}
              </th>
            </tr>
          </thead>
          <tbody>
            {house.counts.map((c) => (
              <tr key={c.kind}>
                <td>{c.name}</td>
                {floors.map((f) => (
                  <td key={f.id} className="num">
                    {of(f, c.kind) || ''}
                  </td>
                ))}
                <td className="num">
                  <b>{of(house, c.kind)}</b>
                </td>
                {[c.new, c.kept, c.moved, c.removed].map((n, i) => (
                  <td key={i} className="num">
                    {n || ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
    </Section>
  );
}
