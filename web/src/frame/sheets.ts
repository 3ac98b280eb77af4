import type { ComponentType } from 'react';
import type { SheetProps } from '../sheets/props';
import { msg, say } from '../words/words';

/** A sheet of a job: its place in the address, what it is called and the script that shows it. */
export interface Sheet {
  id: string;
  name: string;
  script: () => Promise<{ default: ComponentType<SheetProps> }>;
}

/** The sheets of a job in their order on the riser. A sheet is its folder and its entry here. */
export const sheets: readonly Sheet[] = [
  { id: 'survey', name: msg('Survey'), script: () => import('../sheets/survey/SurveySheet').then((m) => ({ default: m.SurveySheet })) },
  { id: 'supply', name: msg('Supply'), script: () => import('../sheets/supply/SupplySheet').then((m) => ({ default: m.SupplySheet })) },
  {
    id: 'circuits',
    name: msg('Circuits'),
    script: () => import('../sheets/circuits/CircuitsSheet').then((m) => ({ default: m.CircuitsSheet })),
  },
  { id: 'board', name: msg('Board'), script: () => import('../sheets/board/BoardSheet').then((m) => ({ default: m.BoardSheet })) },
  {
    id: 'materials',
    name: msg('Materials'),
    script: () => import('../sheets/materials/MaterialsSheet').then((m) => ({ default: m.MaterialsSheet })),
  },
  { id: 'quote', name: msg('Quote'), script: () => import('../sheets/quote/QuoteSheet').then((m) => ({ default: m.QuoteSheet })) },
  { id: 'plan', name: msg('Plan'), script: () => import('../sheets/plan/PlanSheet').then((m) => ({ default: m.PlanSheet })) },
  { id: 'first-fix', name: msg('First fix'), script: () => import('../sheets/fix/FixSheet').then((m) => ({ default: m.FirstFix })) },
  { id: 'second-fix', name: msg('Second fix'), script: () => import('../sheets/fix/FixSheet').then((m) => ({ default: m.SecondFix })) },
  { id: 'test', name: msg('Test'), script: () => import('../sheets/test/TestSheet').then((m) => ({ default: m.TestSheet })) },
  {
    id: 'handover',
    name: msg('Handover'),
    script: () => import('../sheets/handover/HandoverSheet').then((m) => ({ default: m.HandoverSheet })),
  },
];

const place = (id: string) => sheets.findIndex((s) => s.id === id);

/** What a sheet is called in the words of the practice. */
export const sheetName = (id: string) => say(sheets[place(id)]?.name ?? msg(id));

const digits = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0'];

/** Where a key leads from a sheet: a digit to the sheet of that place, the brackets to the one before and after. */
export function sheetAt(key: string, from: string): string | undefined {
  const at = digits.includes(key) ? digits.indexOf(key) : key === ']' ? place(from) + 1 : key === '[' ? place(from) - 1 : -1;
  return sheets[at]?.id;
}
