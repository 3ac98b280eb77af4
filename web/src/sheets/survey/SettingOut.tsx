import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { useCase } from '../../api/job';
import { Caution, Heading, Item, List, Quiet, Scroll, Section, SheetTable } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { useUnits } from '../../parts/units';
import { say } from '../../words/words';
import { RoomWays } from './RoomWays';

/** The plan of rooms and ways, and where the points of each room go. For whoever marks them out. */
export function SettingOut({ job }: { job: Of<'JobView'> }) {
  const sheet = useCase(job.id).data;
  if (!sheet) return <p>{say('Gathering …')}</p>;
  return (
    <>
      <Section>
        <Heading
          aside={
            <Button component="a" href={`/api/jobs/${job.id}/setting-out.pdf`} disabled={sheet.ways.rooms.length === 0}>
              {say('Print')}
            </Button>
          }
        >
          {say('Rooms and ways, not to scale')}
        </Heading>
        {sheet.ways.rooms.length === 0 ? <p>{say('The survey has no rooms yet.')}</p> : <RoomWays plan={sheet.ways} />}
        <Quiet>{say('◐ assumed in part, ○ not noted. From where the cables of a room come stands with the room.')}</Quiet>
      </Section>
      {sheet.setOut.length > 0 && <Caution>{say('Before a wall is drilled or chased look for cables and pipes in it.')}</Caution>}
      {sheet.setOut.map((r) => (
        <Section key={r.room} data-setout={r.name}>
          <Heading
            aside={
              <Quiet>
                {[r.clash > 0 && say('{{n}} remarked on', { n: r.clash }), r.open > 0 && say('{{n}} not placed yet', { n: r.open })]
                  .filter(Boolean)
                  .join(', ')}
              </Quiet>
            }
          >
            {[r.name, r.floor].filter(Boolean).join(', ')}
          </Heading>
          {r.points.length > 0 && <Points points={r.points} name={r.name} />}
          <Holes cuts={r.cuts} />
          <Switched controls={r.controls} />
        </Section>
      ))}
    </>
  );
}

function Points({ points, name }: { points: Of<'SetPoint'>[]; name: string }) {
  const units = useUnits();
  const mm = (v: number) => (v ? units.show(v, 'mm') : '–');
  return (
    <Scroll>
      <SheetTable aria-label={say('Setting-out of {{name}}', { name })} data-cards>
        <thead>
          <tr>
            <th scope="col" aria-label={say('Verdict')} />
            <th scope="col">{say('Point')}</th>
            <th scope="col">{say('Tags')}</th>
            <th scope="col">{say('Circuit')}</th>
            <th scope="col">{say('Height')}</th>
            <th scope="col">{say('Box')}</th>
            <th scope="col">{say('Wall')}</th>
            <th scope="col">{say('Along it')}</th>
            <th scope="col">{say('Remarks')}</th>
          </tr>
        </thead>
        <tbody>
          {points.map((p) => (
            <tr key={p.point} data-verdict={p.verdict}>
              <td>
                <Mark verdict={p.verdict} size={13} />
              </td>
              <td>
                <b>
                  {p.count} × {p.name}
                </b>
              </td>
              <td data-label={p.tags ? say('Tags') : undefined}>{p.tags}</td>
              <td data-label={p.circuit ? say('Circuit') : undefined}>{p.circuit}</td>
              <td data-label={say('Height')}>
                {mm(p.heightMM)} {p.usual && p.heightMM > 0 && <Quiet>{say('usual')}</Quiet>}
              </td>
              <td data-label={say('Box')}>
                {p.box || '–'} {p.boxOpen && <Quiet>{say('usual')}</Quiet>}
              </td>
              <td data-label={say('Wall')}>{p.wall || '–'}</td>
              <td data-label={say('Along it')}>{mm(p.offsetMM)}</td>
              <td data-whole>{p.says.join('; ')}</td>
            </tr>
          ))}
        </tbody>
      </SheetTable>
    </Scroll>
  );
}

/** The holes through its walls and in its timber, and what is remarked on them. */
function Holes({ cuts }: { cuts: Of<'HoleStand'>[] }) {
  return (
    <List>
      {cuts.map((c) => (
        <Item key={c.id} data-cut={c.verdict}>
          <Mark verdict={c.verdict} size={13} /> {c.says}
          {c.remarks.length > 0 && <>: {c.remarks.join('; ')}</>}
        </Item>
      ))}
    </List>
  );
}

/** How the lights of the room are switched, and the cables of each control. */
function Switched({ controls }: { controls: Of<'Control'>[] }) {
  return (
    <List>
      {controls.map((c) => (
        <Item key={c.point} data-control={c.switching}>
          {c.lamps} × {c.name}: {c.parts.map((p) => `${p.count} × ${p.name}`).join(', ')}.{' '}
          <Quiet>
            {c.legs
              .map((l) =>
                say('{{n}} × {{name}}, {{cores}} cores and earth: {{says}}', { n: l.count, name: l.name, cores: l.cores, says: l.says }),
              )
              .join('; ')}
          </Quiet>
        </Item>
      ))}
    </List>
  );
}
