import { api, ask, type Of } from './client';

// What a page that opens on a job needs first is asked for at once, beside its scripts, and not
// one after the other.

interface Early {
  me: Of<'Me'>;
  terms: Of<'Terms'>;
  job: Of<'JobAnswer'>;
  circuits: Of<'CircuitsSheet'>;
  supply: Of<'SupplySheet'>;
}

const coming: { [K in keyof Early]?: Promise<Early[K] | undefined> } = {};
let of = '';
let until = 0;
const fresh = 5000;

function may<T>(call: Promise<T>) {
  return call.catch(() => undefined);
}

/** Asks for what a sheet of a job needs first. What fails is asked for again by whoever needs it. */
export function begin(job: string, sheet: string) {
  const path = { params: { path: { id: job } } };
  of = job;
  until = Date.now() + fresh;
  coming.me = may(ask(api.GET('/api/session')));
  coming.job = may(ask(api.GET('/api/jobs/{id}', path)));
  coming.terms = may(ask(api.GET('/api/terms', { params: { query: { job } } })));
  if (['circuits', 'board', 'supply'].includes(sheet)) coming.circuits = may(ask(api.GET('/api/jobs/{id}/circuits', path)));
  if (sheet === 'supply') coming.supply = may(ask(api.GET('/api/jobs/{id}/supply', path)));
}

/** What was asked for early, once and for a moment: undefined where it was not, or failed. */
export async function early<K extends keyof Early>(what: K, job = of): Promise<Early[K] | undefined> {
  const came = job === of && Date.now() < until ? coming[what] : undefined;
  coming[what] = undefined;
  return (await came) as Early[K] | undefined;
}

/** Nothing that was asked for early holds any more: something was changed. */
export const endEarly = () => {
  until = 0;
};
