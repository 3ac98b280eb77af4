import type { Of } from '../../api/client';

const none: Of<'Fact'> = { value: null, basis: '', note: '' };

/** An enclosure of the supply chain of which nothing is known yet but what is given. */
export const freshEnclosure = (known: Pick<Of<'Enclosure'>, 'id' | 'kind' | 'name'> & Partial<Of<'Enclosure'>>): Of<'Enclosure'> => ({
  from: '',
  owner: 'customer',
  mayOpen: '',
  sealed: '',
  sealNo: '',
  lineAt: '',
  ratingA: none,
  joined: null,
  disconnect: null,
  switchesN: null,
  electrode: null,
  islandedOnly: null,
  torqueNm: none,
  torqueSheet: '',
  feed: { material: '', size: '', earthSize: '', wires: 0, deviceA: none, lengthM: none, way: '' },
  condition: '',
  mounted: '',
  new: false,
  enters: '',
  outside: null,
  unsealed: { by: '', reference: '', on: '' },
  ...known,
});
