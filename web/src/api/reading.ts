import { useSyncExternalStore } from 'react';
import { answered, Trouble } from './client';
import { database } from './database';
import { whenOwned } from './own';

// What is read is kept in the browser under the person who read it, so that a job and its sheets
// can be read without a connection. Nothing of it is computed here: it is what the server said.

/** Since when there is no connection, and how old the oldest of what is shown without one is. */
interface Connection {
  down: boolean;
  asOf?: string;
}

let now: Connection = { down: false };
const listeners = new Set<() => void>();
const set = (next: Connection) => {
  now = next;
  listeners.forEach((l) => l());
};
const subscribe = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

/** Whether the server is reached, and of when what is shown is where it is not. */
export const useConnection = () => useSyncExternalStore(subscribe, () => now);

let onUp = () => {};
/** Says what is done once the server answers again. */
export const whenUp = (run: () => void) => {
  onUp = run;
};

answered.tell = () => {
  if (!now.down) return;
  set({ down: false });
  onUp();
};

const unreached = (e: unknown) => e instanceof Trouble && (e.status === 0 || (e.status >= 502 && e.status <= 504));

const keyOf = (person: string, name: string) => `${person}|${name}`;

// Once somebody has signed out nothing that was still on its way is kept, until the page is opened anew.
let leaving = false;

/** Keeps something as it was read. */
export async function keepRead(name: string, data: unknown, person?: string) {
  try {
    const who = person ?? (await whenOwned());
    const db = await database;
    if (!leaving) await db?.put('read', { key: keyOf(who, name), person: who, at: new Date().toISOString(), data });
  } catch {
    // A full or closed database loses only what can be read without a connection.
  }
}

/** Reads something, or what was read of it before where the server cannot be reached. */
export async function reading<T>(name: string, read: () => Promise<T>, person?: string): Promise<T> {
  try {
    const data = await read();
    void keepRead(name, data, person);
    return data;
  } catch (e) {
    if (!unreached(e)) throw e;
    const kept = await before(name, person);
    if (!kept) {
      set({ ...now, down: true });
      throw e;
    }
    set({ down: true, asOf: now.asOf && now.asOf < kept.at ? now.asOf : kept.at });
    return kept.data as T;
  }
}

async function before(name: string, person?: string) {
  try {
    return await (await database)?.get('read', keyOf(person ?? (await whenOwned()), name));
  } catch {
    return undefined;
  }
}

/** Forgets what a person read here, when they sign out. */
export async function forgetRead(person: string) {
  leaving = true;
  const db = await database;
  if (!db) return;
  const tx = db.transaction('read', 'readwrite');
  for (let c = await tx.store.openCursor(); c; c = await c.continue()) {
    if (c.value.person === person || c.value.person === '') await c.delete();
  }
  await tx.done;
}

const keepDays = 30;

/** Forgets what nobody has read for a month. */
export async function forgetOldReads() {
  const db = await database;
  if (!db) return;
  const past = IDBKeyRange.upperBound(new Date(Date.now() - keepDays * 86_400_000).toISOString());
  const tx = db.transaction('read', 'readwrite');
  for (let c = await tx.store.index('at').openCursor(past); c; c = await c.continue()) await c.delete();
  await tx.done;
}
