import type { Of } from '../api/client';
import { say } from '../words/words';
import { dayName } from './dayName';
import { Block, P, Quiet } from './layout';

const named = (list: Of<'PowerOf'>[]) => list.map((c) => (c.where ? `${c.name} (${c.where})` : c.name)).join(' · ');

/** What is kept on and what is switched off on the days to come, and where. */
export function PowerDays({ days }: { days: Of<'PowerDay'>[] }) {
  return (
    <>
      {days.map((d) => (
        <Block key={d.day} above="s" data-power={d.day}>
          <b>{dayName(d.day)}</b> <Quiet>{d.steps === 1 ? say('for 1 step') : say('for {{n}} steps', { n: d.steps })}</Quiet>
          <P around="xs">
            <b>{d.whole ? say('The whole house is off') : say('Off')}</b>
            {d.off.length > 0 && `: ${named(d.off)}`}
            {d.off.length === 0 && !d.whole && `: ${say('nothing that is in use')}`}
          </P>
          {!d.whole && (
            <P around="xs">
              <b>{say('Kept on')}</b>: {named(d.on) || say('nothing')}
            </P>
          )}
          {d.at.length > 0 && <Quiet block>{say('Switched off, locked and proved dead at: {{at}}', { at: d.at.join('; ') })}</Quiet>}
        </Block>
      ))}
    </>
  );
}
