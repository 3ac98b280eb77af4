import { Button } from '@mui/material';
import { useHappenings } from '../api/people';
import { Heading, Quiet, Scroll, Section, SheetTable, Td, Wrong } from '../parts/layout';
import { moment, msg, say } from '../words/words';

/** What can happen, in the words of the server. */
const what = [
  msg('signed in'),
  msg('shared by a link'),
  msg('withdrew a link'),
  msg('failed to sign in'),
  msg('signed out'),
  msg('added a person'),
  msg('made a link for a password'),
  msg('set a password'),
  msg('changed a role'),
  msg('let a person in no more'),
  msg('let a person in again'),
  msg('authorised'),
  msg('withdrew an authorisation'),
  msg('ended sessions'),
  msg('took out a file'),
  msg('changed the stock'),
  msg('imported a job'),
  msg('signed and sealed'),
  msg('changed the company’s lists'),
  msg('restored a backup'),
];

/** Who came in, what left as a file, who may what: the newest first. For the owner. */
export function Happenings() {
  const list = useHappenings();
  const lines = list.data?.pages.flat() ?? [];
  return (
    <Section aria-label={say('What happened')}>
      <Heading>{say('What happened')}</Heading>
      <p>
        <Quiet>{say('Beside the changes of jobs, which each job keeps itself. Nothing here is changed or taken off.')}</Quiet>
      </p>
      {list.error && <Wrong>{list.error.message}</Wrong>}
      {list.isPending && <p>{say('Looking …')}</p>}
      {list.isSuccess && lines.length === 0 && <p>{say('Nothing yet.')}</p>}
      <Scroll>
        <SheetTable aria-label={say('What happened')} data-cards>
          <tbody>
            {lines.map((h) => (
              <tr key={h.seq} data-happening={h.what}>
                <Td nowrap>{moment(h.at)}</Td>
                <td>{h.by}</td>
                <td>{what.includes(h.what) ? say(h.what) : h.what}</td>
                <td>{h.about}</td>
                <td>
                  <Quiet>{h.address}</Quiet>
                </td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
      {list.hasNextPage && (
        <Button size="small" disabled={list.isFetchingNextPage} onClick={() => void list.fetchNextPage()}>
          {say('Show earlier')}
        </Button>
      )}
    </Section>
  );
}
