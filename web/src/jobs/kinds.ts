import type { Of } from '../api/client';

export const kindNames: Record<Of<'Kind'>, string> = {
  rewire: 'Rewire',
  'supply-upgrade': 'Supply upgrade',
  'surge-protection': 'Surge protection',
  'ev-charger': 'EV charger',
};
