import { Button, LinearProgress } from '@mui/material';
import { useLooking, useProposal, useSwapDays, useTakeDays } from '../api/days';
import { Heading, P, Quiet, Row, Section, Wrong } from '../parts/layout';
import { say } from '../words/words';
import { ProposedJob } from './ProposedJob';

/** Days for the open steps of all jobs, proposed together: job by job with why each is not earlier, and taken over as it stands. */
export function ProposeDays({ onClose }: { onClose: () => void }) {
  const proposal = useProposal();
  const take = useTakeDays();
  const swap = useSwapDays();
  const part = useLooking(proposal.isFetching).data?.part ?? 0;
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
          'What somebody fixed for a day to come stays. What a check, a price or the client still holds has no day. Days off, vehicles and the weather are those that are noted.',
        )}
      </Quiet>
      {proposal.isFetching && (
        <LinearProgress
          aria-label={say('Looking for days …')}
          variant={part > 0 ? 'determinate' : 'indeterminate'}
          value={100 * part}
          sx={{ my: 1 }}
        />
      )}
      {proposal.error && <Wrong>{proposal.error.message}</Wrong>}
      {swap.error && <Wrong>{swap.error.message}</Wrong>}
      {take.error && <Wrong>{take.error.message}</Wrong>}
      {proposal.data && jobs.length === 0 && <P data-nothing>{say('No job has a step that could have a day.')}</P>}
      {jobs.map((j) => (
        <ProposedJob
          key={j.id}
          j={j}
          disabled={take.isPending || swap.isPending}
          onTake={() => take.mutate(j)}
          onSwap={(step) => swap.mutate({ job: j.id, step })}
        />
      ))}
    </Section>
  );
}
