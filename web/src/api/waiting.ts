import { Trouble } from './client';

// What the queues of the browser share: what is recorded, typed on the walk or photographed
// waits until the server has it.

/** Whether nobody refused what was sent: without a connection, or while the server cannot, it simply waits. */
export const unreachable = (e: unknown) => !(e instanceof Trouble) || e.status === 0 || e.status >= 500 || e.status === 401;

// How long after a try without an answer the next one follows, where no connection comes before.
export const retryAfter = 3000;

/** Waits for a new connection, and no longer than so many milliseconds. */
export const connected = (withinMS: number) =>
  new Promise<void>((go) => {
    const done = () => {
      window.clearTimeout(timer);
      window.removeEventListener('online', done);
      go();
    };
    const timer = window.setTimeout(done, withinMS);
    window.addEventListener('online', done);
  });

const directTries = 3;
const directAfter = 1000;

/** Makes a write that does not wait in the queue: where there is no answer it is tried a few times more, then given up. */
export async function insist<T>(write: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await write();
    } catch (e) {
      if (tries === directTries || !unreachable(e) || (e as Trouble).status === 401) throw e;
      await connected(directAfter * tries);
    }
  }
}

/** Lists in the browser's storage, each under its key, at hand for who shows them. */
export class Slots<T> {
  private readonly cache = new Map<string, T[]>();
  private readonly listeners = new Set<() => void>();
  private readonly none: T[] = [];

  read(key: string): T[] {
    const known = this.cache.get(key);
    if (known) return known;
    let list = this.none;
    try {
      list = JSON.parse(localStorage.getItem(key) ?? '[]') as T[];
    } catch {
      // An unreadable slot holds nothing that could be sent.
    }
    this.cache.set(key, list);
    return list;
  }

  write(key: string, list: T[]) {
    this.cache.set(key, list);
    try {
      if (list.length) localStorage.setItem(key, JSON.stringify(list));
      else localStorage.removeItem(key);
    } catch {
      // A full or closed storage loses only the survival of a reload: what waits is at hand here.
    }
    this.tell();
  }

  readonly subscribe = (l: () => void) => {
    if (this.listeners.size === 0) window.addEventListener('storage', this.elsewhere);
    this.listeners.add(l);
    return () => {
      this.listeners.delete(l);
      if (this.listeners.size === 0) window.removeEventListener('storage', this.elsewhere);
    };
  };

  /** Forgets what the page holds at hand. */
  forget() {
    this.cache.clear();
  }

  // Another tab sent or added something: what is at hand here is read again.
  private readonly elsewhere = (e: StorageEvent) => {
    if (e.key && this.cache.delete(e.key)) this.tell();
  };

  private tell() {
    this.listeners.forEach((l) => l());
  }
}
