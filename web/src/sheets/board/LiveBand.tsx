import { styled } from '@mui/material/styles';
import type { Of } from '../../api/client';
import { say } from '../../words/words';

// Hatched, so that it is told without its colour.
const Band = styled('div')({
  border: '2px solid var(--brick)',
  padding: '6px 10px',
  marginBottom: 8,
  fontWeight: 600,
  '&[data-live=true]': {
    background: 'repeating-linear-gradient(135deg, var(--wash) 0 10px, var(--sheet) 10px 20px)',
  },
  '&[data-live=false]': { borderStyle: 'dashed', borderColor: 'var(--ink2)', fontWeight: 400 },
});

/** The incoming terminals of a board and what is behind its main switch, as far as what is locked keeps them live; and whose locks hang. */
export function LiveBand({ at }: { at: Of<'BoardLive'> }) {
  if (at.locked.length === 0 && at.inside.length > 0) return null; // in use as it stands, nobody works on it
  const live = at.incoming.length > 0;
  return (
    <>
      <Band data-live={live} data-incoming>
        {live ? (
          <>
            <span aria-hidden="true">⚡ </span>
            {say('Incoming terminals: live from {{sources}}.', { sources: at.incoming.join(', ') })}
          </>
        ) : (
          say('Incoming terminals: expected dead. Only the readings make them so.')
        )}
      </Band>
      {at.locked.length > 0 && (
        <Band data-live={at.inside.length > 0} data-inside>
          {at.inside.length > 0
            ? say('Behind the main switch: live from {{sources}}.', { sources: at.inside.join(', ') })
            : say('Behind the main switch: expected dead. Only the readings make it so.')}{' '}
          {at.locked.map((l) => say('{{name}} open, lock of {{by}} ({{tag}}).', { name: l.name, by: l.by, tag: l.tag })).join(' ')}
        </Band>
      )}
    </>
  );
}
