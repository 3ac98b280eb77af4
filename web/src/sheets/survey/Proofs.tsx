import { Link } from 'react-router';
import type { Of } from '../../api/client';
import { List } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** The tests that prove what the age of a house hints at, with the circuits on which each is still to be read. */
export function Proofs({ job, proofs }: { job: Of<'JobView'>; proofs: Of<'Proof'>[] }) {
  if (proofs.length === 0) return null;
  return (
    <List data-proofs>
      {proofs.map((p) => {
        const open = p.open.filter(Boolean);
        return (
          <li key={p.test} data-proof={p.test}>
            <Mark verdict={p.open.length > 0 ? 'unknown' : 'pass'} size={13} /> <Link to={`/jobs/${job.id}/test`}>{p.name}</Link>:{' '}
            {p.open.length === 0
              ? say('read')
              : open.length > 0
                ? say('still to be read on {{circuits}}', { circuits: open.join(', ') })
                : say('still to be read')}
          </li>
        );
      })}
    </List>
  );
}
