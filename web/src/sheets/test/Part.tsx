import { Button } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { Grow, Quiet, Row, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { OneOf } from '../../parts/OneOf';
import { moment, say } from '../../words/words';
import { PermitForm } from './PermitForm';
import { WaitsList } from './WaitsList';

const Frame = styled('div')({ padding: '8px 0', '& + &': { borderTop: '1px solid var(--rule)' } });

/** How a part stands, and in which colour. */
const states = (): Record<string, { mark: Of<'Verdict'>; says: string }> => ({
  locked: { mark: 'unknown', says: say('open, under a lock') },
  open: { mark: 'unknown', says: say('open: nobody permitted to close it') },
  before: { mark: 'unknown', says: say('as it was before the job') },
  test: { mark: 'caution', says: say('live for a test') },
  service: { mark: 'pass', says: say('in service') },
  lapsed: { mark: 'fail', says: say('live, permission lapsed: switch off') },
  stray: { mark: 'fail', says: say('live without permission: switch off') },
});

const uses = (): Record<string, string> => ({
  test: say('For test'),
  service: say('Into service'),
  restore: say('Restore'),
});

/** A part that one closing makes live: how it stands, and the permission for each use of it. */
export function Part({ job, part, open, onOpen }: { job: Of<'JobView'>; part: Of<'EnergisePart'>; open: boolean; onOpen: () => void }) {
  const [use, setUse] = useState<string>();
  const state = states()[part.state] ?? { mark: 'unknown' as const, says: part.state };
  const chosen = part.for.find((f) => f.use === (use ?? (part.state === 'test' ? 'service' : 'test'))) ?? part.for[0];
  const settled = part.state === 'service';
  return (
    <Frame data-part={part.closes.join(' ')} data-state={part.state}>
      <Row>
        <Mark verdict={state.mark} />
        <Grow from={200}>
          <b>{part.name}</b>: {state.says}
          {part.permit && (
            <Quiet block>
              {say('{{by}} ({{role}}), {{at}}', { by: part.permit.by, role: part.permit.role, at: moment(part.permit.at) })}
              {part.permit.person ? say(', closed by {{person}}', { person: part.permit.person }) : ''}
              {part.permit.until ? say(', until {{until}}', { until: moment(part.permit.until) }) : ''}
            </Quiet>
          )}
        </Grow>
        {!open && !settled && <Button onClick={onOpen}>{say('Permit')}</Button>}
      </Row>
      {part.lapsed && <Wrong>{part.lapsed}</Wrong>}
      {open && (
        <>
          <Quiet block>
            {part.reaches.length > 0
              ? say('Makes live: {{places}}.', { places: part.reaches.join(', ') })
              : say('Makes nothing live by itself.')}
          </Quiet>
          {!settled && chosen && (
            <>
              <OneOf
                label={say('What it is energised for')}
                value={chosen.use}
                onChange={setUse}
                choices={part.for.map((f) => ({ id: f.use, name: `${uses()[f.use]}${f.waits.length ? ` (${f.waits.length})` : ''}` }))}
              />
              {chosen.waits.length > 0 ? (
                <WaitsList job={job.id} waits={chosen.waits} />
              ) : (
                <PermitForm key={chosen.use} job={job} part={part} use={chosen} />
              )}
            </>
          )}
        </>
      )}
    </Frame>
  );
}
