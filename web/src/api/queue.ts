import type { QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Of, Trouble } from './client';
import { keep } from './job';
import { connected, retryAfter, unreachable } from './waiting';

// One queue for everything that waits for the server: what was recorded, typed on the walk,
// changed on a sheet, photographed. Each person's is sent in their name alone, in the order in
// which it was made on this device, each under a key of its own, so that a retry doubles nothing.

/** Something that waits. */
export interface Waits {
  key: string;
  seq: number; // this device's count when it was made
  send: () => Promise<Of<'JobView'>>;
  /** Takes it off the queue: the server has it. */
  done: (answer: Of<'JobView'>) => void | Promise<void>;
  /** Leaves it with why the server did not take it: it waits for a person. */
  refuse: (why: Trouble) => void | Promise<void>;
  /** It was refused and waits for a person: it is not sent again as it is. */
  refused?: boolean;
  /** Where and how it is sent, for who decides about it where the person's session was ended. */
  path: string;
  body: () => BodyInit;
  /** Takes it off the queue: it waits on the server for that decision. */
  handed: () => void;
}

type Source = (person: string) => Waits[] | Promise<Waits[]>;

const sources: Source[] = [];
/** Adds a kind of thing that waits. */
export const waitsFrom = (source: Source) => void sources.push(source);

/** The device's own name and its count of what it made. */
export function made(): Pick<Of<'Sent'>, 'device' | 'seq'> {
  const device = localStorage.getItem('arvelt:device') ?? crypto.randomUUID();
  const seq = Number(localStorage.getItem('arvelt:seq') ?? '0') + 1;
  localStorage.setItem('arvelt:device', device);
  localStorage.setItem('arvelt:seq', String(seq));
  return { device, seq };
}

const held = async (person: string) => (await Promise.all(sources.map(async (s) => s(person)))).flat().sort((a, b) => a.seq - b.seq);
/** How much of a person waits on this device, refused or not. */
export const countWaiting = async (person: string) => (await held(person)).length;
const waiting = async (person: string) => (await held(person)).filter((w) => !w.refused);

/**
 * Hands in what a person left here whose session somebody else ended: it is decided by their
 * supervisor. Says how much the server has now; what it does not take stays here.
 */
export async function handIn(person: string): Promise<number> {
  let handed = 0;
  for (const w of await held(person)) {
    const about = new URLSearchParams({ path: w.path, seq: String(w.seq) });
    const answer = await fetch(`/api/left?${about}`, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/octet-stream',
        'Idempotency-Key': w.key,
        'Device-Time': new Date().toISOString(),
      },
      body: w.body(),
    }).catch(() => undefined);
    if (answer?.ok) {
      w.handed();
      handed++;
    } else if (!answer || answer.status === 401 || answer.status >= 500) break;
  }
  return handed;
}

const running = new Map<string, Promise<void>>();

/** Sends what waits of a person, in order, until there is nothing or no connection. */
export async function flush(client: QueryClient, person: string): Promise<void> {
  if (!person) return;
  const before = running.get(person);
  if (before) {
    await before;
    if ((await waiting(person)).length === 0 || running.has(person)) return running.get(person);
  }
  const run = once(client, person).finally(() => running.delete(person));
  running.set(person, run);
  return run;
}

async function once(client: QueryClient, person: string) {
  const tried = new Set<string>();
  for (;;) {
    const next = (await waiting(person)).find((w) => !tried.has(w.key));
    if (!next) return;
    tried.add(next.key);
    try {
      const answer = await next.send();
      await next.done(answer); // first: whatever becomes of the rest, it is not sent again
      keep(client, answer);
    } catch (e) {
      if (unreachable(e)) return;
      await next.refuse(e as Trouble);
    }
  }
}

/** Sends what a person left here, on any job, whenever there is a connection: the one place that tries again. */
export function useSend(client: QueryClient, person: string | undefined) {
  useEffect(() => {
    if (!person) return;
    let stopped = false;
    const keepOn = async () => {
      while (!stopped) {
        await flush(client, person);
        await connected(retryAfter);
      }
    };
    void keepOn();
    return () => {
      stopped = true;
    };
  }, [client, person]);
}
