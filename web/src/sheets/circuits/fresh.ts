import type { Of } from '../../api/client';

const unknown = (): Of<'Fact'> => ({ value: null, basis: '', note: '' });

/** A new circuit, everything in it assumed until somebody looks. */
export function freshCircuit(id: string, use: 'ev' | 'fixed'): Of<'Circuit'> {
  const ev = use === 'ev';
  return {
    id,
    name: ev ? 'Charge point' : 'New circuit',
    use,
    point: {
      place: '',
      outdoor: ev,
      servesOutdoors: ev,
      currentA: ev ? 32 : 16,
      limitA: 0,
      managedA: 0,
      dcDetection: null,
      heightMM: 1000,
      manufacturer: '',
    },
    route: {
      cableType: ev ? 'swa3-90' : 'flat-te-70',
      lineMM2: ev ? 6 : 2.5,
      terminals90: false,
      slackM: 1,
      boardTailM: 1,
      pointTailM: 0.5,
      segments: [
        {
          place: 'from the board',
          lengthM: 5,
          basis: 'assumed',
          method: 'C',
          ambientC: 30,
          grouped: 1,
          insulationMM: 0,
          vertical: false,
          depthMM: 0,
          soilKmW: 0,
        },
      ],
    },
    protection: { family: 'mcb_rcbo', curve: 'B', ratingA: ev ? 32 : 16, icnKA: 6, rcdType: 'A', idnMA: 30, way: 0, poles: ev ? 2 : 1 },
    pen: { option: '', reason: '', opensAll: null, raOhm: unknown(), separationM: unknown(), rodLengthM: 0, rods: 1, soilOhmM: unknown() },
  };
}
