import { styled } from '@mui/material/styles';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { moment, say } from '../words/words';

const Alarm = styled('section')({
  border: '3px solid var(--brick)',
  background: 'var(--sheet)',
  padding: '8px 12px',
  marginBottom: 10,
  '& h2': { margin: 0, fontSize: '1.1em', color: 'var(--brick)' },
  '& ol': { margin: '6px 0', paddingLeft: 22 },
});

/** That the neutral or combined conductor of the supply may be open: what to do now, in its order, on every sheet. */
export function OpenNeutral({ job }: { job: Of<'JobView'> }) {
  const on = job.view.tests.suspect;
  if (!on) return null;
  return (
    <Alarm role="alert" data-open-neutral={on.reported ? 'reported' : 'open'}>
      <h2>{say('An open neutral is suspected')}</h2>
      {on.title}: {on.summary} ({on.by}, {moment(on.at)})
      <ol>
        <li>{say('Open the main switch now, and lock it.')}</li>
        <li>{say('Disconnect nothing of earth, bonding or neutral.')}</li>
        <li>{say('Keep everybody off earthed metal: pipes, taps, cases, a car on charge. An open main switch does not make it safe.')}</li>
        <li>
          {on.reported ? (
            say('The network operator was told. Wait for its answer; the supervisor then orders the retest in writing.')
          ) : (
            <Link to={`/jobs/${job.id}/supply?leaf=desk`}>{say('Report it to the network operator at once, by telephone')}</Link>
          )}
        </li>
      </ol>
    </Alarm>
  );
}
