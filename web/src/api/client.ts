import { say } from '../words/words';
import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

// Every type of the interface comes from the contract.
type Schemas = components['schemas'];
/** The names of the contract's schemas. */
export type Name = keyof Schemas;
/** A value as the contract describes it: `Of<'Circuit'>`. */
export type Of<K extends Name> = Schemas[K];

/** Calls the server as the contract says; an answer is unwrapped by {@link ask}. */
export const api = createClient<paths>({ baseUrl: window.location.origin, fetch: (request) => globalThis.fetch(request) });

/** A problem that the server explained, or a lost connection (status 0). */
export class Trouble extends Error {
  constructor(
    readonly status: number,
    readonly problem: Of<'Problem'>,
  ) {
    super(problem.title);
  }
}

/** Called when the server says that nobody is signed in, and where somebody else ended the session, whose it was. */
export const signedOut: { tell: (ended?: Of<'Problem'>['ended']) => void } = { tell: () => {} };

/** Called with each answer of the server: it can be reached. */
export const answered = { tell: () => {} };

let seen: string | undefined;
/** The newest time of the server that this page has seen: nothing made after it was made before it. */
export const lastSeen = () => seen;

/** What a call of {@link api} resolves to. */
export interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** Unwraps an answer; throws Trouble with the server's own words. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Trouble(0, { status: 0, title: say('No connection to Arvelt. What you typed is kept here.') });
  }
  const at = answer.response.headers.get('Date');
  if (at) seen = new Date(at).toISOString();
  if (answer.response.ok) {
    answered.tell();
    return answer.data as T;
  }
  const said = answer.error as Of<'Problem'> | undefined;
  const problem =
    said && typeof said === 'object' && 'title' in said
      ? said
      : { status: answer.response.status, title: say('Arvelt did not answer as expected.') };
  if (answer.response.status === 401) signedOut.tell(problem.ended);
  throw new Trouble(answer.response.status, problem);
}

/** A new idempotency key: the same for every retry of one write. */
export const newKey = () => crypto.randomUUID();
