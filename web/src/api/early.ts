import type { Of } from './client';

// What a page that opens on a job needs first was asked for at once, beside its scripts
// (public/begin.js), and not one after the other.

interface Early {
  me: Of<'Me'>;
  terms: Of<'Terms'>;
  jobAnswer: Of<'JobAnswer'>;
  circuits: Of<'CircuitsSheet'>;
  supply: Of<'SupplySheet'>;
}

type Coming = { [K in keyof Early]?: Promise<Early[K] | undefined> } & { job: string; until: number };

declare global {
  interface Window {
    arveltEarly?: Coming;
  }
}

/** What was asked for early, once and for a moment: undefined where it was not, or failed. */
export async function early<K extends keyof Early>(what: K, job?: string): Promise<Early[K] | undefined> {
  const coming = window.arveltEarly;
  if (!coming || Date.now() > coming.until || (job && job !== coming.job)) return undefined;
  const came = coming[what];
  coming[what] = undefined;
  return (await came) as Early[K] | undefined;
}

/** Nothing that was asked for early holds any more: something was changed. */
export const endEarly = () => {
  window.arveltEarly = undefined;
};
