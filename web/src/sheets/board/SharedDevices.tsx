import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { NumberBox } from '../../parts/fields';
import { Fields, Heading, Section } from '../../parts/layout';
import { tripsWords } from '../circuits/states';
import { boardsOf } from './ways';

/** The residual-current devices of a board that its circuits share. */
export function SharedDevices({ part, j }: { part: Part<Of<'Board'>>; j: Of<'Job'> }) {
  const terms = useTerms().data;
  const others = new Set(
    boardsOf(j)
      .filter((b) => b.id !== part.value.id)
      .flatMap((b) => b.groups.map((g) => g.id)),
  );
  return (
    <Section>
      <Heading>{say('Residual-current devices that circuits share')}</Heading>
      <EditTable
        part={part}
        path="groups"
        label={say('Shared residual-current devices')}
        add={say('Add a shared device')}
        newRow={(rows) => {
          let n = rows.length + 1;
          while (others.has(`g${n}`) || rows.some((g) => g.id === `g${n}`)) n++;
          return {
            id: `g${n}`,
            name: say('Shared device {{n}}', { n }),
            rcdType: terms?.rcdTypes[1]?.id ?? '',
            idnMA: terms?.residualMA ?? 0,
            ratingA: 63,
            delayed: false,
            trips: '' as const,
          };
        }}
        columns={[
          { key: 'name', label: say('Name') },
          { key: 'rcdType', label: say('Type'), kind: 'choice', width: 80, options: terms?.rcdTypes ?? [] },
          { key: 'idnMA', label: say('Residual'), unit: 'mA', kind: 'number', width: 90 },
          { key: 'ratingA', label: say('Rating'), unit: 'A', kind: 'number', width: 80 },
          { key: 'delayed', label: say('Delayed'), kind: 'check', width: 80 },
          { key: 'trips', label: say('Trips by itself'), kind: 'choice', width: 120, options: tripsWords() },
        ]}
      />
      <Fields above="m">
        <NumberBox
          part={part}
          path="makerRDF"
          label={say('Board manufacturer’s diversity factor')}
          help={say('0: not given; the table’s is taken')}
        />
      </Fields>
    </Section>
  );
}
