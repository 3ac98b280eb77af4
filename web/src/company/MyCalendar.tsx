import { Button } from '@mui/material';
import { useMyLinks, useShareMine } from '../api/links';
import { P, Quiet, SubHead, Wrong } from '../parts/layout';
import { FreshLink, SharedLinks } from '../parts/SharedLinks';
import { say } from '../words/words';

/** One's own days as a calendar that a telephone subscribes to. */
export function MyCalendar() {
  const share = useShareMine();
  const links = useMyLinks().data ?? [];
  return (
    <div data-my-calendar>
      <SubHead>{say('My days in a calendar')}</SubHead>
      <P around="xs">
        <Quiet>
          {say('A calendar subscribes to the link and shows the jobs and steps of each of your days. Whoever has the link sees them.')}
        </Quiet>
      </P>
      <Button disabled={share.isPending} onClick={() => share.mutate()}>
        {say('Make a calendar link')}
      </Button>
      {share.error && <Wrong>{share.error.message}</Wrong>}
      {share.data && <FreshLink made={share.data} says={say('Subscribe to this in your calendar.')} />}
      {links.length > 0 && <SharedLinks links={links} />}
    </div>
  );
}
