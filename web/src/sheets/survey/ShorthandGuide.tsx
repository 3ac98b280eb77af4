import { styled } from '@mui/material/styles';
import { msg, say } from '../../words/words';
import { useTerms } from '../../api/job';
import { Boxed, P, Quiet, Scroll, SheetTable } from '../../parts/layout';

const Example = styled('td')({ fontWeight: 600, minWidth: 210 });

const rows: [string, string][] = [
  [
    msg('pantry g: 2 double socket, light'),
    msg('A room, its floor, a colon, then points parted by commas. The floor carries on to the next lines.'),
  ],
  [msg('first floor'), msg('A floor alone: the rooms that follow are on it. Marks after a room: b g mf f1 f2 f3 at out, or [any words].')],
  [msg('6 double socket · 6x · x6 · six'), msg('How many. One when nothing is said.')],
  [msg('two way light · light 2-way dimmed'), msg('How it is switched: one way, two way, intermediate, bedside, sensor; and dimmed.')],
  [msg('= light · keep light'), msg('It stays.')],
  [msg('> tv · move tv'), msg('It is moved.')],
  [msg('- 2 single socket · remove 2 single socket'), msg('It goes.')],
  ['socket @1100 · @1.1m · @42in · @3\'6" · @worktop', msg('Height above the finished floor.')],
  [msg('socket /north · /"by the window"'), msg('On which wall.')],
  [msg('spur <c1 · <"existing lights"'), msg('What it is fed from.')],
  ['socket #47 · #2g', msg('The box.')],
  ['hob 7.2kW · shower 45A', msg('What it draws.')],
  [msg('socket (behind the bed) · socket left of the door'), msg('A note; words of place are kept as one by themselves.')],
  [msg('## the hatch is painted shut'), msg('A remark, kept with the room.')],
];

/** The grammar of the walk in one look, with the words it knows. */
export function ShorthandGuide({ practice }: { practice: string }) {
  const terms = useTerms().data;
  const inches = terms?.survey.inches;
  return (
    <Boxed data-guide={practice} tone="quiet" above="s">
      <Scroll>
        <SheetTable aria-label={say('Shorthand')}>
          <tbody>
            {rows.map(([typed, means]) => (
              <tr key={typed}>
                <Example>{say(typed)}</Example>
                <td>{say(means)}</td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
      <p>
        {say(
          'A height without a unit is in {{x}}. {{x2}} A slip of a letter is read over and shown dotted; what is not ' +
            'understood is kept as you typed it and asked about.',
          {
            x: inches ? 'inches' : 'millimetres',
            x2: inches
              ? say('A three-way light is switched from two places, a four-way from three.')
              : say('A three-way light is switched from three places: intermediate.'),
          },
        )}
      </p>
      <P around="none">
        <b>{say('Words for points:')}</b>{' '}
        <Quiet>{terms?.survey.kinds.map((k) => (k.word === k.name ? k.word : `${k.word} (${k.name})`)).join(' · ')}</Quiet>
      </P>
    </Boxed>
  );
}
