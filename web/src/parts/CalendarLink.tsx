import { Button } from '@mui/material';
import type { Of } from '../api/client';
import { say } from '../words/words';
import { P, Quiet, Wrong } from './layout';
import { FreshLink, SharedLinks } from './SharedLinks';

interface CalendarLinkProps {
  explains: string;
  /** What to do with a link that was just made. */
  says: string;
  links: Of<'SharedLink'>[];
  share: { isPending: boolean; error: Error | null; data?: Of<'MadeLink'> };
  onMake: () => void;
}

/** Days as a calendar that anything subscribes to, by links that are made and withdrawn. */
export function CalendarLink({ explains, says, links, share, onMake }: CalendarLinkProps) {
  return (
    <>
      <P around="xs">
        <Quiet>{explains}</Quiet>
      </P>
      <Button disabled={share.isPending} onClick={onMake}>
        {say('Make a calendar link')}
      </Button>
      {share.error && <Wrong>{share.error.message}</Wrong>}
      {share.data && <FreshLink made={share.data} says={says} />}
      {links.length > 0 && <SharedLinks links={links} />}
    </>
  );
}
