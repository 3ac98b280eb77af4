import type { Of } from '../api/client';
import { useOutdoor } from '../api/job';
import type { Part } from '../api/part';
import { say } from '../words/words';
import { CheckList } from './CheckList';
import { Caution, Fields, Heading } from './layout';
import { MarkFields } from './MarkFields';

interface GroundMarksProps<T> {
  job: string;
  part: Part<T>;
  path: string;
  of: (c: Of<'Check'>) => boolean;
  open: (c: Of<'Check'>) => void;
  opened?: string;
}

/** What must stand of other services before the ground is broken here, with its checks. Nothing where the ground is not. */
export function GroundMarks<T>({ job, part: given, path, of, open, opened }: GroundMarksProps<T>) {
  const checks = (useOutdoor(job).data?.ground ?? []).filter(of);
  const part: Part = given; // the paths of the marks are not of the part's own type
  if (checks.length === 0) return null;
  return (
    <div data-ground-marks>
      <Heading>{say('Before the ground is broken')}</Heading>
      <Caution>{say('Other services are located and marked before the first spade; near them one digs by hand.')}</Caution>
      <Fields above="s">
        <MarkFields part={part} path={path} />
      </Fields>
      <CheckList checks={checks} onOpen={open} opened={opened} />
    </div>
  );
}
