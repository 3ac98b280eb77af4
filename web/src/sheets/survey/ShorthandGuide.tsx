import { useTerms } from '../../api/job';
import { Quiet, Scroll, SheetTable } from '../../parts/layout';

const rows: [string, string][] = [
  ['pantry g: 2 double socket, light', 'A room, its floor, a colon, then points parted by commas. The floor carries on to the next lines.'],
  ['first floor', 'A floor alone: the rooms that follow are on it. Marks after a room: b g mf f1 f2 f3 at out, or [any words].'],
  ['6 double socket · 6x · x6 · six', 'How many. One when nothing is said.'],
  ['two way light · light 2-way dimmed', 'How it is switched: one way, two way, intermediate, bedside, sensor; and dimmed.'],
  ['= light · keep light', 'It stays.'],
  ['> tv · move tv', 'It is moved.'],
  ['- 2 single socket · remove 2 single socket', 'It goes.'],
  ['socket @1100 · @1.1m · @42in · @3\'6" · @worktop', 'Height above the finished floor.'],
  ['socket /north · /"by the window"', 'On which wall.'],
  ['spur <c1 · <"existing lights"', 'What it is fed from.'],
  ['socket #47 · #2g', 'The box.'],
  ['hob 7.2kW · shower 45A', 'What it draws.'],
  ['socket (behind the bed) · socket left of the door', 'A note; words of place are kept as one by themselves.'],
  ['## the hatch is painted shut', 'A remark, kept with the room.'],
];

/** The grammar of the walk in one look, with the words it knows. */
export function ShorthandGuide({ practice }: { practice: string }) {
  const terms = useTerms().data;
  const inches = terms?.survey.inches;
  return (
    <div data-guide={practice} style={{ border: '1px solid var(--rule2)', padding: '8px 12px', marginTop: 8 }}>
      <Scroll>
        <SheetTable aria-label="Shorthand">
          <tbody>
            {rows.map(([typed, means]) => (
              <tr key={typed}>
                <td style={{ fontWeight: 600, minWidth: 210 }}>{typed}</td>
                <td>{means}</td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
      <p>
        A height without a unit is in {inches ? 'inches' : 'millimetres'}.{' '}
        {inches
          ? 'A three-way light is switched from two places, a four-way from three.'
          : 'A three-way light is switched from three places: intermediate.'}{' '}
        A slip of a letter is read over and shown dotted; what is not understood is kept as you typed it and asked about.
      </p>
      <p style={{ margin: 0 }}>
        <b>Words for points:</b>{' '}
        <Quiet>{terms?.survey.kinds.map((k) => (k.word === k.name ? k.word : `${k.word} (${k.name})`)).join(' · ')}</Quiet>
      </p>
    </div>
  );
}
