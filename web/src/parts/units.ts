import { useContext } from 'react';
import { figure } from './figure';
import { WordsContext } from './practice';

/** A unit that people read and type: one of it is `per` of the unit that is kept, counted from `zero`. */
export interface Scale {
  unit: string;
  per: number;
  zero?: number;
}

const metric = {
  mm: { unit: 'mm', per: 1 },
  m: { unit: 'm', per: 1 },
  torque: { unit: 'N·m', per: 1 },
};
const inches: typeof metric = {
  mm: { unit: 'in', per: 25.4 },
  m: { unit: 'ft', per: 0.3048 },
  torque: { unit: 'lbf·in', per: 0.112984829 },
};

// The units of other fields, by the unit that is kept.
const inchFields: Record<string, Scale> = {
  m: inches.m,
  mm: inches.mm,
  'm²': { unit: 'ft²', per: 0.09290304 },
  ml: { unit: 'in³', per: 16.387064 },
  'm/s': { unit: 'mph', per: 0.44704 },
  '°C': { unit: '°F', per: 1 / 1.8, zero: 32 },
};

export type Kept = keyof typeof metric;

/** The units of the job's practice, over the ones that are kept: millimetres, metres, newton metres. */
export function useUnits() {
  const units = useContext(WordsContext).inches ? inches : metric;
  return {
    ...units,
    show: (v: number | null | undefined, kept: Kept) => figure(typeof v === 'number' ? v / units[kept].per : v, units[kept].unit),
  };
}

/** The unit in which a field is shown and typed: the one it is given, else the practice's for the unit that is kept. */
export function useScale(): (unit?: string, given?: Scale) => Scale | undefined {
  const inch = useContext(WordsContext).inches;
  return (unit, given) => given ?? (inch && unit ? inchFields[unit] : undefined);
}

const round = (v: number, places: number) => Number(v.toFixed(places));
const same = (s?: Scale) => !s || (s.per === 1 && !s.zero);

/** What is kept, as it is shown; and what was typed, as it is kept. */
export const shown = (v: number, scale?: Scale) => (!scale || same(scale) ? v : round(v / scale.per + (scale.zero ?? 0), 3));
export const kept = (v: number, scale?: Scale) => (!scale || same(scale) ? v : round((v - (scale.zero ?? 0)) * scale.per, 4));
