import type { Choice } from '../parts/choice';
import { say } from '../words/words';

/** What a tax may be reckoned on. */
export const taxBases = (): Choice[] => [
  { id: '', name: say('the whole price') },
  { id: 'parts', name: say('the parts alone') },
  { id: 'none', name: say('nothing: none is added') },
];

/** Who does what is not in the price. */
export const doers = (): Choice[] => [
  { id: 'client', name: say('by the client') },
  { id: 'trade', name: say('by another trade, engaged by the client') },
  { id: 'operator', name: say('by the network operator') },
  { id: 'nobody', name: say('left as it is') },
];
