import { say } from '../words/words';
import { usePracticeTerms } from '../api/job';
import type { Part } from '../api/part';
import { EditTable } from './EditTable';
import { Block, P, Quiet } from './layout';

/** Figures that a local rule sets in place of the standard's, each with whose rule it is. */
export function LocalRules({ part, prefix = '', practice = '' }: { part: Part; prefix?: string; practice?: string }) {
  const rules = usePracticeTerms(practice).data?.rules ?? [];
  if (rules.length === 0) return null;
  return (
    <Block above="m">
      <P above="none" below="xs">
        {say('Local rules')} <Quiet>{say('in place of the table’s figure; each check that rests on one names it among its sources')}</Quiet>
      </P>
      <EditTable
        part={part}
        path={`${prefix}local`}
        label={say('Local rules')}
        add={say('Add a local rule')}
        newRow={(rows) => {
          const rule = rules.find((r) => !rows.some((l: { rule: string }) => l.rule === r.id)) ?? rules[0];
          return { rule: rule.id, value: rule.usual, reason: '' };
        }}
        columns={[
          {
            key: 'rule',
            label: say('Figure'),
            kind: 'choice',
            options: rules.map((r) => ({
              id: r.id,
              name: say('{{name}}, {{x}}table {{usual}}', { name: r.name, x: r.unit ? `${r.unit}, ` : '', usual: r.usual }),
            })),
          },
          { key: 'value', label: say('Value'), kind: 'number', width: 90 },
          { key: 'reason', label: say('Whose rule, and where it is written') },
        ]}
      />
    </Block>
  );
}
