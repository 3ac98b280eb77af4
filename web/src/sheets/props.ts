import type { Of } from '../api/client';

/** What every sheet of a job is shown with. */
export interface SheetProps {
  job: Of<'JobView'>;
  j: Of<'Job'>;
  open: (check: Of<'Check'>, take?: (r: Of<'Remedy'>) => void) => void;
  opened?: string;
}
