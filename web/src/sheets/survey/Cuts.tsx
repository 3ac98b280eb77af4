import { useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { type Part } from '../../api/part';
import type { Column } from '../../parts/column';
import { EditTable } from '../../parts/EditTable';
import { Block, Details, Quiet } from '../../parts/layout';
import { OneOf } from '../../parts/OneOf';
import { useUnits } from '../../parts/units';
import { say } from '../../words/words';

/** Holes that are cored through the room's walls, measured on both sides, and what is cut out of its timber. */
export function Cuts({ job, part }: { job: Of<'JobView'>; part: Part<Of<'Room'>> }) {
  const units = useUnits();
  const terms = useTerms().data?.survey;
  const [side, setSide] = useState<'what' | 'where'>('what');
  const circuits = job.view.job?.circuits ?? [];
  const mm = <K extends string>(key: K, label: string, width = 90, zero = true) => ({
    key,
    label,
    width,
    zero,
    scale: units.mm,
    kind: 'number' as const,
  });
  const unsaid = { id: '', name: say('not looked') };
  const what: Column<Of<'Core'>>[] = [
    mm('boreMM', say('Bore'), 76, false),
    mm('thickMM', say('Thickness'), 90),
    { key: 'behind', label: say('Behind it'), kind: 'choice', width: 190, options: [unsaid, ...(terms?.behinds ?? [])] },
    { key: 'dust', label: say('Dust'), kind: 'choice', width: 170, options: [{ id: '', name: '–' }, ...(terms?.dusts ?? [])] },
    { key: 'outside', label: say('From the other side'), kind: 'check', width: 90 },
    {
      key: 'circuit',
      label: say('For the cable of'),
      kind: 'choice',
      width: 150,
      options: [{ id: '', name: '–' }, ...circuits.map((c) => ({ id: c.id, name: c.name }))],
    },
  ];
  const where: Column<Of<'Core'>>[] = [
    { key: 'mark', label: say('From which mark'), width: 150 },
    mm('alongMM', say('Along, inside')),
    mm('upMM', say('Up, inside')),
    mm('outAlongMM', say('Along, other side'), 110),
    mm('outUpMM', say('Up, other side'), 110),
  ];
  const asTyped = part as Part;
  return (
    <Details open={part.value.cores.length + part.value.timber.length > 0}>
      <summary>{say('Holes through walls, and in timber')}</summary>
      <Block below="s">
        <OneOf
          label={say('What the table of holes shows')}
          value={side}
          onChange={setSide}
          choices={[
            { id: 'what', name: say('What it goes through') },
            { id: 'where', name: say('Where, on both sides') },
          ]}
        />
      </Block>
      <EditTable
        part={asTyped}
        path="cores"
        label={say('Holes of {{name}}', { name: part.value.name })}
        add={say('Add a hole')}
        newRow={(): Of<'Core'> => ({
          id: newKey(),
          wall: say('north'),
          circuit: '',
          boreMM: 25,
          thickMM: 0,
          mark: '',
          alongMM: 0,
          upMM: 0,
          outAlongMM: 0,
          outUpMM: 0,
          outside: false,
          behind: '',
          dust: '',
        })}
        columns={[{ key: 'wall', label: say('Wall'), width: 100 }, ...{ what, where }[side]]}
      />
      <Quiet>
        {say(
          'Both places are measured from the same mark: left empty, the left end of the wall as one faces it inside, and the finished floor. It is piloted first, and cored only where the pilot came out as measured.',
        )}
      </Quiet>
      <EditTable
        part={asTyped}
        path="timber"
        label={say('Holes and notches in timber of {{name}}', { name: part.value.name })}
        add={say('Add holes in timber')}
        newRow={(): Of<'TimberCut'> => ({
          id: newKey(),
          place: say('floor joists'),
          notch: false,
          sizeMM: 20,
          depthMM: 0,
          spanMM: 0,
          fromMM: 0,
          made: false,
          allowed: '',
        })}
        columns={[
          { key: 'place', label: say('Which') },
          { key: 'notch', label: say('Notch'), kind: 'check', width: 60 },
          mm('sizeMM', say('Hole, or notch deep'), 100, false),
          mm('depthMM', say('Timber deep')),
          mm('spanMM', say('Span')),
          mm('fromMM', say('From the support'), 100),
          { key: 'made', label: say('Not solid'), kind: 'check', width: 70 },
          { key: 'allowed', label: say('Allowed by'), width: 130 },
        ]}
      />
    </Details>
  );
}
