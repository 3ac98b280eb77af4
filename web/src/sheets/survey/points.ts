import { newKey, type Of } from '../../api/client';

/** A point as it enters a room: one of its kind and state, nothing else known. */
export const freshPoint = (kind: string, state: Of<'RoomPoint'>['state']): Of<'RoomPoint'> => ({
  id: newKey(),
  kind,
  count: 1,
  state,
  switching: '',
  dimmed: false,
  heightMM: 0,
  wall: '',
  offsetMM: 0,
  ductM: 0,
  lamp: { cap: '', colourK: 0, powerW: 0, each: 0, dims: false, cutOutMM: 0 },
  built: { cordMM: 0, awayMM: 0, reached: null, drawer: null },
  fedFrom: '',
  box: '',
  powerW: 0,
  currentA: 0,
  note: '',
  typed: '',
  bathMM: null,
  inside: false,
  ip: '',
});
