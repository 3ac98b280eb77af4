import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { DateBox } from '../../parts/DateBox';
import { ChoiceBox, TextBox, YesNoBox } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Block, Details, Fields, Quiet, Row } from '../../parts/layout';
import { mapRows } from '../../parts/mapRows';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';
import { bringers } from './groups';
import { Instead } from './Instead';

const ours: Of<'Brought'> = { by: 'us', expected: '', arrived: '', suitable: null, missing: '', warranty: '', note: '' };

type Row = Of<'Brought'> & { key: string };

const keyOf = (r: Row) => r.key;

/** Who asks for a product, by which rule, and who brings it where the company does not buy it. */
export function Asks({ job, line, part }: { job: Of<'JobView'>; line: Of<'TakeLine'>; part: Part<Of<'Materials'>> }) {
  const rows = line.asks.map((a): Row => ({ ...(part.value.brought?.[a.key] ?? { ...ours, by: a.brought?.by ?? 'us' }), key: a.key }));
  const brought = mapRows(part, 'brought', ours, rows, keyOf);
  const others = line.asks.filter((a) => a.brought);
  const named = [...new Set(line.asks.map((a) => a.for).filter(Boolean))];
  const first = named.slice(0, 3).join(', ');
  return (
    <Details data-asks={line.key} above="none">
      <summary>
        <Quiet>
          {named.length > 3 ? say('for {{names}} and {{more}} more', { names: first, more: named.length - 3 }) : first}
          {first && line.rule && ': '}
          {line.rule}
          {others.length > 0 && ` · ${say('{{others}} of {{all}} brought by others', { others: others.length, all: line.asks.length })}`}
        </Quiet>
      </summary>
      {line.asks.map((a, i) => (
        <Block key={a.key} ruled pad="xs" data-ask={a.key}>
          <Row align="start">
            {(a.lacks || a.brought) && (
              <Mark
                verdict={a.lacks || a.brought?.trouble ? 'fail' : a.brought?.ready ? 'pass' : 'unknown'}
                label={a.lacks ? say('missing of what came') : say('brought by others')}
              />
            )}
            <span>
              <b>{a.for || say('The job')}</b> {figure(a.need, line.unit)} {a.assumed && '◐'}{' '}
              {a.rule !== line.rule && <Quiet block>{a.rule}</Quiet>}
              {a.brought && <Quiet block>{a.brought.says}</Quiet>}
            </span>
          </Row>
          <Bring part={brought} at={i} by={rows[i].by} />
        </Block>
      ))}
      <Instead job={job} line={line} part={part} />
    </Details>
  );
}

/** Who brings it, and of what others bring whether it came, does, and who answers for it. */
function Bring({ part, at, by }: { part: Part<{ rows: Row[] }>; at: number; by: string }) {
  const path = `rows[${at}]` as const;
  return (
    <Fields above="xs" className="no-print" least={170}>
      <ChoiceBox part={part} path={`${path}.by`} label={say('Who brings it')} options={bringers} />
      {by !== 'us' && by !== 'there' && (
        <>
          <DateBox part={part} path={`${path}.expected`} label={say('Expected on')} />
          <DateBox part={part} path={`${path}.arrived`} label={say('Came on')} />
          <TextBox part={part} path={`${path}.missing`} label={say('Missing of it')} />
        </>
      )}
      {by === 'client' && (
        <>
          <YesNoBox part={part} path={`${path}.suitable`} label={say('Looked at: it fits the job and the rules')} />
          <ChoiceBox
            part={part}
            path={`${path}.warranty`}
            label={say('Who answers for it if it fails')}
            empty={say('not agreed')}
            options={[
              { id: 'client', name: say('the client') },
              { id: 'us', name: say('we do') },
            ]}
          />
        </>
      )}
      {by !== 'us' && <TextBox part={part} path={`${path}.note`} label={say('Note')} />}
    </Fields>
  );
}
