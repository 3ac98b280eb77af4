import { useTerms } from '../api/job';
import { figure } from './figure';

/** A unit that people read and type: one of it is `per` of the unit that is kept. */
export interface Scale {
  unit: string;
  per: number;
}

const metric = { mm: { unit: 'mm', per: 1 }, m: { unit: 'm', per: 1 }, torque: { unit: 'N·m', per: 1 } };
const inches: typeof metric = {
  mm: { unit: 'in', per: 25.4 },
  m: { unit: 'ft', per: 0.3048 },
  torque: { unit: 'lbf·in', per: 0.112984829 },
};

export type Kept = keyof typeof metric;

/** The units of the job's practice, over the ones that are kept: millimetres, metres, newton metres. */
export function useUnits() {
  const units = useTerms().data?.survey.inches ? inches : metric;
  return {
    ...units,
    show: (v: number | null | undefined, kept: Kept) => figure(typeof v === 'number' ? v / units[kept].per : v, units[kept].unit),
  };
}

const round = (v: number, places: number) => Number(v.toFixed(places));

/** What is kept, as it is shown; and what was typed, as it is kept. */
export const shown = (v: number, scale?: Scale) => (scale && scale.per !== 1 ? round(v / scale.per, 3) : v);
export const kept = (v: number, scale?: Scale) => (scale && scale.per !== 1 ? round(v * scale.per, 4) : v);
