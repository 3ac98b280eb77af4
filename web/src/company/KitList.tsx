import type { Of } from '../api/client';
import { useTerms } from '../api/job';
import type { Part } from '../api/part';
import { EditTable } from '../parts/EditTable';
import { Heading, P, Quiet, Section } from '../parts/layout';
import { say } from '../words/words';

/** What the company has of tools, protection and first aid, in which van it is, and until when it is good. */
export function KitList({ part }: { part: Part<Of<'Company'>> }) {
  const kits = useTerms().data?.kit ?? [];
  return (
    <Section>
      <Heading>{say('Tools, protection and first aid')}</Heading>
      <P above="none">
        <Quiet>
          {say(
            'The list for the van asks for these by the steps that come next, and says what is missing, past its date or in another van.',
          )}
        </Quiet>
      </P>
      <EditTable
        part={part}
        path="kit"
        label={say('Tools, protection and first aid')}
        add={say('Add a thing')}
        newRow={() => ({ kit: kits[0]?.id ?? '', name: say('New thing'), van: '', until: '' })}
        columns={[
          { key: 'kit', label: say('What it is'), kind: 'choice', width: 300, options: kits },
          { key: 'name', label: say('Name') },
          { key: 'van', label: say('Where it is'), width: 120 },
          { key: 'until', label: say('Good until'), kind: 'date', width: 140, hide: (r) => !kits.find((k) => k.id === r.kit)?.dated },
        ]}
      />
    </Section>
  );
}
