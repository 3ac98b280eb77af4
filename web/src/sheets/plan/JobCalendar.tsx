import { useJobLinks, useShareJob } from '../../api/links';
import { CalendarLink } from '../../parts/CalendarLink';
import { Heading, Section } from '../../parts/layout';
import { say } from '../../words/words';

/** The days of the job as a calendar that anything can subscribe to. */
export function JobCalendar({ job }: { job: string }) {
  const share = useShareJob(job);
  const links = useJobLinks(job).data ?? [];
  return (
    <Section data-calendar>
      <Heading>{say('Its days in a calendar')}</Heading>
      <CalendarLink
        explains={say('A calendar subscribes to the link and shows each day with its steps. Whoever has the link sees them.')}
        says={say('Give this to whoever shall see the days of the job.')}
        links={links.filter((l) => l.kind === 'job')}
        share={share}
        onMake={() => share.mutate({ kind: 'job' })}
      />
    </Section>
  );
}
