import { useEffect } from 'react';
import { Trouble } from './client';

// What the queues of the browser share: what is recorded, typed on the walk or photographed
// waits until the server has it.

/** Whether nobody refused what was sent: without a connection, or while the server cannot, it simply waits. */
export const unreachable = (e: unknown) => !(e instanceof Trouble) || e.status === 0 || e.status >= 500 || e.status === 401;

/** Sends at once, again after each time of so many milliseconds and with each new connection, as long as anything waits. */
export function useRetry(waits: boolean, send: () => void, everyMS: number) {
  useEffect(() => {
    if (!waits) return;
    send();
    const timer = window.setInterval(send, everyMS);
    window.addEventListener('online', send);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener('online', send);
    };
  }, [waits, send, everyMS]);
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
