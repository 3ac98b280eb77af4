import { Button } from '@mui/material';
import { useJobLinks, useShareJob } from '../../api/links';
import { Heading, P, Quiet, Section, Wrong } from '../../parts/layout';
import { FreshLink, SharedLinks } from '../../parts/SharedLinks';
import { say } from '../../words/words';

/** The days of the job as a calendar that anything can subscribe to. */
export function JobCalendar({ job }: { job: string }) {
  const share = useShareJob(job);
  const links = (useJobLinks(job).data ?? []).filter((l) => l.kind === 'job');
  return (
    <Section data-calendar>
      <Heading>{say('Its days in a calendar')}</Heading>
      <P above="none">
        <Quiet>{say('A calendar subscribes to the link and shows each day with its steps. Whoever has the link sees them.')}</Quiet>
      </P>
      <Button disabled={share.isPending} onClick={() => share.mutate({ kind: 'job' })}>
        {say('Make a calendar link')}
      </Button>
      {share.error && <Wrong>{share.error.message}</Wrong>}
      {share.data && <FreshLink made={share.data} says={say('Give this to whoever shall see the days of the job.')} />}
      {links.length > 0 && <SharedLinks links={links} />}
    </Section>
  );
}
