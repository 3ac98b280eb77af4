import { useQueryClient } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { askJob } from './answer';
import { api, newKey, type Trouble } from './client';
import { own, ownerNow } from './own';
import { flush, made, waitsFrom } from './queue';
import { Slots } from './waiting';

// Shorthand typed on the walk waits here until the server has it: in the order
// it was typed, each line under its own key, so that a retry never doubles it.
// It survives a reload and a lost connection.

/** A line of the walk that the server does not have yet. */
export interface Waiting {
  key: string;
  seq?: number; // this device's count when it was typed
  text: string;
  room?: string;
  refused?: string; // why the server did not take it; it waits for a person
}

const slot = (job: string) => own(`walk:${job}`);
const slots = new Slots<Waiting>();

waitsFrom((person) => {
  const prefix = `arvelt:${person}:walk:`;
  return Object.keys(localStorage)
    .filter((at) => at.startsWith(prefix))
    .flatMap((at) =>
      slots.read(at).map((w) => {
        const job = at.slice(prefix.length);
        const line = { text: w.text, room: w.room };
        const drop = () =>
          slots.write(
            at,
            slots.read(at).filter((x) => x.key !== w.key),
          );
        return {
          key: w.key,
          seq: w.seq ?? 0,
          send: () =>
            askJob(api.POST('/api/jobs/{id}/walk', { params: { path: { id: job }, header: { 'Idempotency-Key': w.key } }, body: line })),
          done: drop,
          refuse: (why: Trouble) =>
            slots.write(
              at,
              slots.read(at).map((x) => (x.key === w.key ? { ...x, refused: why.message } : x)),
            ),
          refused: !!w.refused,
          path: `/api/jobs/${job}/walk`,
          body: () => JSON.stringify(line),
          handed: drop,
        };
      }),
    );
});

const read = (job: string) => slots.read(slot(job));
const write = (job: string, list: Waiting[]) => slots.write(slot(job), list);

/** Forgets what a page held at hand; a test starts fresh with it. */
export const forget = () => slots.forget();

/** What was typed on the walk of a job and waits, and what adds to it. */
export function useOutbox(job: string) {
  const client = useQueryClient();
  const list = useSyncExternalStore(slots.subscribe, () => read(job));
  return {
    waiting: list,
    send: (text: string, room?: string) => {
      write(job, [...read(job), { key: newKey(), seq: made().seq, text, room }]);
      void flush(client, ownerNow());
    },
    drop: (key: string) =>
      write(
        job,
        read(job).filter((w) => w.key !== key),
      ),
  };
}
