/** The script of each sheet, fetched once it is opened, or while nothing else is to do. */
export const scripts = {
  BoardSheet: () => import('./board/BoardSheet'),
  CircuitsSheet: () => import('./circuits/CircuitsSheet'),
  FixSheet: () => import('./fix/FixSheet'),
  HandoverSheet: () => import('./handover/HandoverSheet'),
  MaterialsSheet: () => import('./materials/MaterialsSheet'),
  PlanSheet: () => import('./plan/PlanSheet'),
  SupplySheet: () => import('./supply/SupplySheet'),
  SurveySheet: () => import('./survey/SurveySheet'),
  TestSheet: () => import('./test/TestSheet'),
};

/** Which of them a path opens. */
export const scriptOf: Record<string, keyof typeof scripts> = {
  board: 'BoardSheet',
  circuits: 'CircuitsSheet',
  'first-fix': 'FixSheet',
  'second-fix': 'FixSheet',
  handover: 'HandoverSheet',
  materials: 'MaterialsSheet',
  plan: 'PlanSheet',
  supply: 'SupplySheet',
  survey: 'SurveySheet',
  test: 'TestSheet',
};

const tryAgain = 3000;

/** Fetches a script; without a connection again and again until there is one. */
export async function sure<T>(script: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await script();
    } catch {
      await new Promise((again) => window.setTimeout(again, tryAgain));
    }
  }
}
