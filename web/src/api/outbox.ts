import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useSyncExternalStore } from 'react';
import { api, ask, newKey, Trouble } from './client';
import { keep } from './job';
import { own } from './own';

// Shorthand typed on the walk waits here until the server has it: in the order
// it was typed, each line under its own key, so that a retry never doubles it.
// It survives a reload and a lost connection.

export interface Waiting {
  key: string;
  text: string;
  room?: string;
  refused?: string; // why the server did not take it; it waits for a person
}

const slot = (job: string) => own(`walk:${job}`);
const empty: Waiting[] = [];
const cache = new Map<string, Waiting[]>();
const listeners = new Set<() => void>();
const sending = new Set<string>();

function read(job: string): Waiting[] {
  const known = cache.get(slot(job));
  if (known) return known;
  let list = empty;
  try {
    list = JSON.parse(localStorage.getItem(slot(job)) ?? '[]') as Waiting[];
  } catch {
    // An unreadable slot holds nothing that could be sent.
  }
  cache.set(slot(job), list);
  return list;
}

function write(job: string, list: Waiting[]) {
  cache.set(slot(job), list);
  try {
    if (list.length) localStorage.setItem(slot(job), JSON.stringify(list));
    else localStorage.removeItem(slot(job));
  } catch {
    // A full or closed storage loses only the survival of a reload.
  }
  listeners.forEach((l) => l());
}

const subscribe = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

/** Forgets what a page held at hand; a test starts fresh with it. */
export const forget = () => cache.clear();

const retryAfter = 3000;

export function useOutbox(job: string) {
  const client = useQueryClient();
  const list = useSyncExternalStore(subscribe, () => read(job));

  const flush = useCallback(async () => {
    if (sending.has(job)) return;
    sending.add(job);
    try {
      for (;;) {
        const next = read(job).find((w) => !w.refused);
        if (!next) return;
        try {
          const answer = await ask(
            api.POST('/api/jobs/{id}/walk', {
              params: { path: { id: job }, header: { 'Idempotency-Key': next.key } },
              body: { text: next.text, room: next.room },
            }),
          );
          keep(client, answer);
          write(
            job,
            read(job).filter((w) => w.key !== next.key),
          );
        } catch (e) {
          const t = e instanceof Trouble ? e : undefined;
          // Without a connection, or while the server cannot, it simply waits.
          if (!t || t.status === 0 || t.status >= 500 || t.status === 401) return;
          write(
            job,
            read(job).map((w) => (w.key === next.key ? { ...w, refused: t.message } : w)),
          );
        }
      }
    } finally {
      sending.delete(job);
    }
  }, [job, client]);

  const waiting = list.some((w) => !w.refused);
  useEffect(() => {
    if (!waiting) return;
    void flush();
    const timer = window.setInterval(() => void flush(), retryAfter);
    window.addEventListener('online', flush);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener('online', flush);
    };
  }, [waiting, flush]);

  return {
    waiting: list,
    send: (text: string, room?: string) => {
      write(job, [...read(job), { key: newKey(), text, room }]);
      void flush();
    },
    drop: (key: string) =>
      write(
        job,
        read(job).filter((w) => w.key !== key),
      ),
  };
}
