import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { ChoiceBox, YesNoBox } from '../../parts/fields';
import { say } from '../../words/words';
import { boardOf, freeWays } from '../board/ways';

/** Whether the two lines of a circuit share one neutral, and how they open. */
export function SharedNeutral({ part, j }: { part: Part<Of<'Circuit'>>; j: Of<'Job'> }) {
  const terms = useTerms().data;
  const { shared, way } = part.value.protection;
  const board = boardOf(j, part.value);
  const free = board ? freeWays(j, board, terms?.columns, part.value.id).filter((w) => w.no !== way) : [];
  return (
    <>
      <YesNoBox
        part={part}
        path="protection.shared.is"
        label={say('Two lines, one neutral')}
        sure
        help={say('a multiwire circuit: outlets between a line and the neutral')}
      />
      {shared.is && (
        <>
          <ChoiceBox
            part={part}
            path="protection.shared.opens"
            label={say('Its lines open')}
            empty={say('not looked at')}
            options={[
              { id: 'common', name: say('by one device of two poles') },
              { id: 'tie', name: say('by two with an identified handle tie') },
              { id: 'apart', name: say('each by itself') },
            ]}
          />
          {shared.opens !== 'common' && (
            <ChoiceBox
              part={part}
              path="protection.shared.secondWay"
              label={say('Second line on')}
              numeric
              options={[
                { id: '0', name: say('the way under the first') },
                ...free.map((w) => ({ id: String(w.no), name: `${say('way')} ${w.no}` })),
              ]}
            />
          )}
        </>
      )}
    </>
  );
}
