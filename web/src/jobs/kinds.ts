import { msg } from '../words/words';
import type { Of } from '../api/client';

export const kindNames: Record<Of<'Kind'>, string> = {
  rewire: msg('Rewire'),
  'supply-upgrade': msg('Supply upgrade'),
  'surge-protection': msg('Surge protection'),
  'ev-charger': msg('EV charger'),
  'board-change': msg('Board change'),
  addition: msg('Addition or alteration'),
  inspection: msg('Inspection and report'),
  repair: msg('Repair or like-for-like replacement'),
};
