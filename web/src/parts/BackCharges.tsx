import type { Of } from '../api/client';
import { figure, money } from './figure';
import { Bad, Item, List, Quiet } from './layout';
import { dayName } from './dayName';
import { say } from '../words/words';

/** What others moved or covered of ours, and what putting it right costs them. */
export function BackCharges({ charges, currency }: { charges: Of<'BackCharge'>[]; currency: string }) {
  if (!charges.length) return null;
  const sum = charges.reduce((s, c) => s + (c.amount ?? 0), 0);
  const open = charges.filter((c) => c.amount === null).length;
  return (
    <div data-back-charges={charges.length}>
      <b>{say('Charged back: {{sum}}', { sum: money(open === charges.length ? null : sum, currency) })}</b>
      {open > 0 && <Quiet> {say('{{n}} not known yet', { n: open })}</Quiet>}
      <List>
        {charges.map((c) => (
          <Item key={`${c.seen} ${c.says}`}>
            {c.says}{' '}
            <Quiet>
              {[
                say('seen {{day}} by {{who}}', { day: dayName(c.seen.slice(0, 10)), who: c.by }),
                say('{{n}} pictures', { n: c.pictures }),
                c.hours !== null && figure(c.hours, 'h'),
                c.parts !== null && say('parts {{sum}}', { sum: money(c.parts, currency) }),
                c.right && say('put right {{how}}', { how: c.right }),
              ]
                .filter(Boolean)
                .join(' · ')}
            </Quiet>{' '}
            {c.right ? money(c.amount, currency) : <Bad>{say('open')}</Bad>}
          </Item>
        ))}
      </List>
    </div>
  );
}
