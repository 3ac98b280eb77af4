import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { useRemovePart } from '../../api/job';
import { Row, Wrong } from '../../parts/layout';
import { say } from '../../words/words';

/** Takes a further board off the job; undo brings it back. */
export function RemoveBoard({ job, board }: { job: Of<'JobView'>; board: Of<'Board'> }) {
  const remove = useRemovePart(job.id);
  const part = `boards/${board.id}`;
  return (
    <Row className="no-print" around="s">
      <Button disabled={job.view.frozen || remove.isPending} onClick={() => remove.mutate({ part, base: job.versions[part] ?? 0 })}>
        {say('Take {{name}} off the job', { name: board.name })}
      </Button>
      {remove.error && <Wrong>{remove.error.message}</Wrong>}
    </Row>
  );
}
