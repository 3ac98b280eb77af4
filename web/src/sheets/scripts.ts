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
const mostTries = 2;

/**
 * Fetches a script; without a connection again and again until there is one. One that is not
 * there although the server answers is of a build that is gone: the page of the newer one is opened.
 */
export async function sure<T>(script: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await script();
    } catch {
      const answers = await fetch('/healthz').then(
        (a) => a.ok,
        () => false,
      );
      if (answers && tries >= mostTries) window.location.reload();
      await new Promise((again) => window.setTimeout(again, tryAgain));
    }
  }
}
