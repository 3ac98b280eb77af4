import { styled } from '@mui/material/styles';
import { useConnection } from '../api/reading';
import { moment, say } from '../words/words';

const Line = styled('p')({
  margin: 0,
  padding: '6px 16px',
  background: 'var(--paper)',
  borderBottom: '1px solid var(--ink)',
  '@media print': { display: 'none' },
});

/** Says that there is no connection, and of when what is shown is. */
export function Offline() {
  const { down, asOf } = useConnection();
  if (!down) return null;
  return (
    <Line role="status" data-offline>
      <b>{say('No connection.')}</b>{' '}
      {asOf && say('What you see is as it was on {{at}}; what you record is kept here and not judged yet.', { at: moment(asOf) })}
    </Line>
  );
}
