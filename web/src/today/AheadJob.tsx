import { Link } from 'react-router';
import type { Of } from '../api/client';
import { keptOf, membersOf, useKept, useRecord } from '../api/records';
import { figure } from '../parts/figure';
import { Fold } from '../parts/Fold';
import { Bad, Block, Caution, List, P, Quiet, Wrong } from '../parts/layout';
import { Mark } from '../parts/Mark';
import { Tick } from '../parts/Tick';
import { say } from '../words/words';

/** A job of the next day, looked at the evening before: what can be done, what cannot and what could be in its place, and what goes into the van. */
export function AheadJob({ j, day }: { j: Of<'AheadJob'>; day: string }) {
  const record = useRecord(j.id);
  const { kept } = useKept(j.id);
  const inVan = (id: string) => {
    const waits = keptOf(kept, 'packed', id);
    return waits ? membersOf(waits.record).done === true : undefined;
  };
  const step = (s: Of<'AheadStep'>) => (
    <li key={s.id} data-ahead-step={s.id}>
      {s.title} <Quiet>{[figure(s.hours, 'h'), ...s.who].join(' · ')}</Quiet>
      {s.off && <Quiet> · {say('the supply is off for it')}</Quiet>}
      {s.height && (
        <Quiet block>
          {s.standBy ? say('Work at height, {{who}} stands by', { who: s.standBy }) : say('Work at height, nobody stands by yet')}
        </Quiet>
      )}
      {s.weather && <Caution>{s.weather}</Caution>}
      {s.held && <Bad style={{ display: 'block' }}>{s.held}</Bad>}
    </li>
  );
  return (
    <Block above="s" data-ahead={j.ref}>
      <Link to={`/jobs/${j.id}/plan`}>
        <b>{j.ref}</b> {j.title}
      </Link>{' '}
      <Quiet>{[j.address, j.town, j.access].filter(Boolean).join(', ')}</Quiet>
      <List>{j.steps.map(step)}</List>
      <a href={`/api/jobs/${j.id}/day.pdf?day=${day}`} target="_blank" rel="noreferrer">
        {say('Day sheet')}
      </a>
      {j.instead.length > 0 && (
        <>
          <P around="xs" strong>
            {say('Could be done in its place')}
          </P>
          <List data-instead>{j.instead.map(step)}</List>
        </>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
      {j.items.length === 0 ? (
        <Quiet block>{j.inside > 0 ? say('All that it asks for is in the van.') : say('It asks for nothing in the van.')}</Quiet>
      ) : (
        <Fold
          summary={
            <>
              {say('To look at tonight: {{n}}', { n: j.items.length })} <Quiet>{say('{{n}} in the van', { n: j.inside })}</Quiet>
            </>
          }
        >
          {() =>
            j.items.map((i) => (
              <Tick
                key={i.id}
                name={i.id}
                checked={inVan(i.id) ?? !!i.packed}
                onChange={(done) => record.mutate({ kind: 'packed', subject: i.id, done, note: '' })}
                label={
                  <span data-ahead-item={i.id}>
                    <Mark verdict={i.verdict} size={14} /> <b>{i.name}</b> {i.count}
                    <Quiet block>
                      {i.says}
                      {i.charge && `. ${say('Charged?')}`}
                    </Quiet>
                  </span>
                }
              />
            ))
          }
        </Fold>
      )}
    </Block>
  );
}
