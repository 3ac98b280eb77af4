import type { Of } from '../../api/client';
import { dayName } from '../../parts/dayName';
import { Bad, Block, Details, Grow, Quiet, Row } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** Steps that others do: who holds each, what they must find ready, and since when it is theirs. Who and when stand in the table of steps. */
export function Batons({ batons }: { batons: Of<'Baton'>[] }) {
  if (!batons.length) return null;
  const now = batons.filter((b) => b.alert || !b.waits);
  const later = batons.filter((b) => !b.alert && b.waits);
  return (
    <div data-batons={batons.length}>
      <b>{say('Hand-offs: what operators, diggers and inspectors do')}</b>
      {now.map((b) => (
        <HandOff key={b.task} b={b} />
      ))}
      {later.length > 0 && (
        <Details>
          <summary>{say('Later: {{n}}', { n: later.length })}</summary>
          {later.map((b) => (
            <HandOff key={b.task} b={b} />
          ))}
        </Details>
      )}
    </div>
  );
}

function HandOff({ b }: { b: Of<'Baton'> }) {
  return (
    <Block ruled pad="xs" data-baton={b.task} data-alert={b.alert ? true : undefined}>
      <Row align="start">
        <Mark verdict={b.alert ? 'fail' : b.waits ? 'unknown' : 'caution'} size={14} label={b.waits ? say('waits') : say('theirs now')} />
        <Grow>
          {b.title}
          <Quiet block>
            {[
              b.contact || say('{{holder}}, nobody named', { holder: b.holder }),
              b.on && say('promised for {{day}}', { day: dayName(b.on) }),
              b.since && say('theirs since {{day}}', { day: dayName(b.since) }),
              b.finds && say('must be found ready: {{what}}', { what: b.finds }),
              b.waits && say('waits for: {{what}}', { what: b.waits }),
            ]
              .filter(Boolean)
              .join(' · ')}
          </Quiet>
          {b.alert && <Bad>{b.alert}</Bad>}
        </Grow>
      </Row>
    </Block>
  );
}
