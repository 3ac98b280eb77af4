import { useMyLinks, useShareMine } from '../api/links';
import { CalendarLink } from '../parts/CalendarLink';
import { SubHead } from '../parts/layout';
import { say } from '../words/words';

/** One's own days as a calendar that a telephone subscribes to. */
export function MyCalendar() {
  const share = useShareMine();
  return (
    <div data-my-calendar>
      <SubHead>{say('My days in a calendar')}</SubHead>
      <CalendarLink
        explains={say(
          'A calendar subscribes to the link and shows the jobs and steps of each of your days. Whoever has the link sees them.',
        )}
        says={say('Subscribe to this in your calendar.')}
        links={useMyLinks().data ?? []}
        share={share}
        onMake={() => share.mutate()}
      />
    </div>
  );
}
