import type { Of } from '../../api/client';
import { say } from '../../words/words';

/** How often a residual-current device that is there opens by itself. */
export const tripsWords = (): { id: Of<'Protection'>['trips']; name: string }[] => [
  { id: '', name: say('not asked') },
  { id: 'never', name: say('never') },
  { id: 'often', name: say('now and then') },
];

/** What a job may do to a circuit that is there. */
export const states = (): { id: Of<'Circuit'>['state']; name: string }[] => [
  { id: 'altered', name: say('leaves its cable, changes its device') },
  { id: 'kept', name: say('repairs or replaces something on it') },
  { id: 'inspected', name: say('inspects and tests it') },
  { id: 'removed', name: say('takes it out') },
  { id: 'dormant', name: say('leaves its cable for later, connected to nothing') },
];
