import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useSyncExternalStore } from 'react';
import { askJob } from './answer';
import { api, newKey, type Trouble } from './client';
import { keep } from './job';
import { own } from './own';
import { Slots, unreachable, useRetry } from './waiting';

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
const slots = new Slots<Waiting>();
const sending = new Set<string>();

const read = (job: string) => slots.read(slot(job));
const write = (job: string, list: Waiting[]) => slots.write(slot(job), list);

/** Forgets what a page held at hand; a test starts fresh with it. */
export const forget = () => slots.forget();

const retryAfter = 3000;

export function useOutbox(job: string) {
  const client = useQueryClient();
  const list = useSyncExternalStore(slots.subscribe, () => read(job));

  const flush = useCallback(async () => {
    if (sending.has(job)) return;
    sending.add(job);
    try {
      for (;;) {
        const next = read(job).find((w) => !w.refused);
        if (!next) return;
        try {
          const answer = await askJob(
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
          if (unreachable(e)) return;
          write(
            job,
            read(job).map((w) => (w.key === next.key ? { ...w, refused: (e as Trouble).message } : w)),
          );
        }
      }
    } finally {
      sending.delete(job);
    }
  }, [job, client]);

  const send = useCallback(() => void flush(), [flush]);
  useRetry(
    list.some((w) => !w.refused),
    send,
    retryAfter,
  );

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
