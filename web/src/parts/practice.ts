import { createContext, useContext } from 'react';
import type { Choice } from './choice';
import { figure } from './figure';

/** What the practice of the open job changes in every sheet: its units, its names of conductor sizes. */
export interface PracticeWords {
  inches: boolean;
  sizes: Choice[]; // empty where the area in mm² is the name
}

export const WordsContext = createContext<PracticeWords>({ inches: false, sizes: [] });

export const useSizes = () => useContext(WordsContext).sizes;

/** Writes a figure with its unit; the size of a conductor by the name that the practice has for it. */
export function useFigure(): (v: number | null | undefined, unit?: string) => string {
  const sizes = useSizes();
  return (v, unit) => (unit === 'mm²' && sizes.find((s) => Number(s.id) === v)?.name) || figure(v, unit);
}
