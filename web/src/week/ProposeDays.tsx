import { Button, LinearProgress } from '@mui/material';
import { useProposal, useTakeDays } from '../api/days';
import { Heading, P, Quiet, Row, Section, Wrong } from '../parts/layout';
import { say } from '../words/words';
import { ProposedJob } from './ProposedJob';

/** Days for the open steps of all jobs, proposed together: job by job with why each is not earlier, and taken over as it stands. */
export function ProposeDays({ onClose }: { onClose: () => void }) {
  const proposal = useProposal();
  const take = useTakeDays();
  const jobs = proposal.data?.jobs.filter((j) => j.steps.length + j.out.length > 0) ?? [];
  return (
    <Section data-proposal>
      <Heading
        aside={
          <Row gap="s">
            <Button size="small" disabled={proposal.isFetching} onClick={() => void proposal.refetch()}>
              {say('Propose anew')}
            </Button>
            <Button size="small" onClick={onClose}>
              {say('Close')}
            </Button>
          </Row>
        }
      >
        {say('Proposed days')}
      </Heading>
      <Quiet block>
        {say(
          'What somebody fixed for a day to come stays. What a check, a price or the client still holds has no day. Weather and days off are not known here.',
        )}
      </Quiet>
      {proposal.isFetching && <LinearProgress aria-label={say('Looking for days …')} sx={{ my: 1 }} />}
      {proposal.error && <Wrong>{proposal.error.message}</Wrong>}
      {take.error && <Wrong>{take.error.message}</Wrong>}
      {proposal.data && jobs.length === 0 && <P data-nothing>{say('No job has a step that could have a day.')}</P>}
      {jobs.map((j) => (
        <ProposedJob key={j.id} j={j} disabled={take.isPending} onTake={() => take.mutate(j)} />
      ))}
    </Section>
  );
}
