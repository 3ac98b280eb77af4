import type { Of } from '../../api/client';
import { say } from '../../words/words';

/** What a job may do to a circuit that is there. */
export const states = (): { id: Of<'Circuit'>['state']; name: string }[] => [
  { id: 'altered', name: say('leaves its cable, changes its device') },
  { id: 'kept', name: say('repairs or replaces something on it') },
  { id: 'inspected', name: say('inspects and tests it') },
  { id: 'removed', name: say('takes it out') },
  { id: 'dormant', name: say('leaves its cable for later, connected to nothing') },
];
