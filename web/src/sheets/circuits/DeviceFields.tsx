import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useAsks, useSheetAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { ChoiceBox, NumberBox, YesNoBox, choices } from '../../parts/fields';
import { Fields } from '../../parts/layout';
import { boardOf, freeWays, waysOf } from '../board/ways';
import { tripsWords } from './states';
import { SharedNeutral } from './SharedNeutral';

interface Props {
  part: Part<Of<'Circuit'>>;
  j: Of<'Job'>;
  feedsBack: boolean; // power may flow back through it
}

/** The device of a circuit and where it stands. */
export function DeviceFields({ part, j, feedsBack }: Props) {
  const terms = useTerms().data;
  const { protection, use, id, state } = part.value;
  const family = terms?.families.find((f) => f.id === protection.family);
  const own = protection.rcdType !== '';
  const asks = useAsks(use);
  const asksOf = useSheetAsks('device');
  // A choice that rules another out takes it back.
  const placed: Part<Of<'Circuit'>> = {
    ...part,
    save: (path, value) => {
      if (path === 'protection.poles' && value === 1) part.set('protection.shared', { is: false, opens: '', secondWay: 0 });
      if (path === 'protection.half') part.set('protection.way', 0);
      if (path === 'protection.way' && value) part.set('protection.ownEnclosure', false);
      if (path === 'protection.ownEnclosure' && value) part.set('protection.way', 0);
      if (path === 'protection.group' && value) {
        part.set('protection.rcdType', '');
        part.set('protection.idnMA', 0);
      }
      if (path === 'protection.rcdType' && value) {
        part.set('protection.group', '');
        if (!protection.idnMA) part.set('protection.idnMA', terms?.residualMA ?? 0);
      }
      part.save(path, value);
    },
  };
  const board = boardOf(j, part.value);
  const open = board ? freeWays(j, board, terms?.columns, id, protection.half) : [];
  const halves = board?.ways.some((w) => w.halves) && protection.poles === 1;
  const alone = protection.shared.is && protection.shared.secondWay > 0; // each line on a device of its own
  const free = open.filter(
    (w) => alone || waysOf(w.no, protection.poles, terms?.columns).every((no) => no === protection.way || open.some((o) => o.no === no)),
  );
  return (
    <Fields least={168}>
      <ChoiceBox part={part} path="protection.family" label={say('Device')} options={terms?.families ?? []} />
      {(family?.curves.length ?? 0) > 1 && (
        <ChoiceBox part={part} path="protection.curve" label={say('Curve')} options={choices(family?.curves)} />
      )}
      {asks('poles') && <ChoiceBox part={placed} path="protection.poles" label={say('Poles')} numeric options={choices([1, 2])} />}
      <ChoiceBox part={part} path="protection.ratingA" label={say('Rating, A')} numeric options={choices(family?.ratings)} />
      <NumberBox part={part} path="protection.icnKA" label={say('Breaks')} unit="kA" />
      <NumberBox
        part={part}
        path="protection.cascadeKA"
        label={say('With the device ahead, breaks')}
        unit="kA"
        help={say('0: no manufacturer’s statement')}
      />
      <ChoiceBox
        part={placed}
        path="protection.rcdType"
        label={say('Residual current, type')}
        options={terms?.rcdTypes ?? []}
        empty={say('none of its own')}
      />
      {own && <NumberBox part={part} path="protection.idnMA" label={say('Residual current')} unit="mA" />}
      {own && state !== '' && asksOf('delayed') && (
        <ChoiceBox part={part} path="protection.trips" label={say('It trips by itself')} options={tripsWords()} />
      )}
      {own && asksOf('delayed') && <YesNoBox part={part} path="protection.delayed" label={say('Delayed, type S')} sure />}
      {board && board.groups.length > 0 && (
        <ChoiceBox
          part={placed}
          path="protection.group"
          label={say('Shares a residual device')}
          options={board.groups.map((g) => ({ id: g.id, name: g.name }))}
          empty={say('none')}
        />
      )}
      {asks('arcFault') && <YesNoBox part={part} path="protection.arcFault" label={say('Arc-fault detection')} sure />}
      {asksOf('energyClass') && (family?.curves.length ?? 0) > 1 && (
        <ChoiceBox
          part={part}
          path="protection.energyClass"
          label={say('Energy limiting class')}
          numeric
          options={[{ id: '0', name: say('not read') }, ...choices([1, 2, 3])]}
          help={say('the figure in the square on the device')}
        />
      )}
      {feedsBack && (
        <YesNoBox part={part} path="protection.bothWays" label={say('Works from either side')} help={say('manufacturer’s statement')} />
      )}
      {asksOf('shared') && protection.poles === 2 && <SharedNeutral part={part} j={j} />}
      {board && (
        <>
          {(halves || protection.half) && (
            <ChoiceBox
              part={placed}
              path="protection.half"
              label={say('Half-size breaker')}
              empty={say('no: full size')}
              options={[
                { id: 'a', name: say('first half of a space') },
                { id: 'b', name: say('second half of a space') },
              ]}
            />
          )}
          <ChoiceBox
            part={placed}
            path="protection.way"
            label={board.id ? say('Way on {{name}}', { name: board.name }) : say('Way on the board')}
            numeric
            help={protection.ownEnclosure ? say('none: it stands in its own enclosure') : undefined}
            options={[
              { id: '0', name: protection.ownEnclosure ? 'none' : say('not placed') },
              ...(protection.way && !free.some((w) => w.no === protection.way)
                ? [{ id: String(protection.way), name: say('way {{n}}, not free', { n: protection.way }) }]
                : []),
              ...free.map((w) => ({ id: String(w.no), name: `${say('way')} ${w.no}` })),
            ]}
          />
          <YesNoBox
            part={placed}
            path="protection.ownEnclosure"
            label={say('In an enclosure of its own')}
            sure
            help={say('beside the board, fed from the tails')}
          />
        </>
      )}
    </Fields>
  );
}
