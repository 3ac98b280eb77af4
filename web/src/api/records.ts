import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useContext, useMemo, useState, useSyncExternalStore } from 'react';
import { askJob } from './answer';
import { api, lastSeen, newKey, type Trouble, type Of } from './client';
import { PracticeContext, useMe, usePracticeTerms, useWrite } from './job';
import { flush, made, waitsFrom } from './queue';
import { Slots } from './waiting';

// What somebody records waits here until the server has it: readings, ticks, isolations, snags,
// each with the time at which it was made and this device's own count, in their order, under
// keys of their own, so that a retry doubles nothing. Each person's are kept apart and only
// ever sent in their name. They survive a reload, a restart and a lost connection.

export type NewRecord = Of<'NewRecord'>;

/** The members of a record of whatever kind, those that its kind does not have undefined. */
export const membersOf = (r: NewRecord): Partial<Omit<Of<'Record'>, 'kind'>> => r;

/** What waits here of a kind about a subject and was not refused, the newest; undefined for nothing. */
export const keptOf = (kept: Kept[], kind: NewRecord['kind'], subject: string) =>
  kept.filter((k) => !k.refused && k.record.kind === kind && membersOf(k.record).subject === subject).at(-1);

/** A record that the server does not have yet. */
export interface Kept {
  key: string;
  record: NewRecord;
  refused?: string; // why the server did not take it; it waits for a person
}

// Keys that are tried for the first time: still before the eyes of who made them, not yet kept.
const first = new Set<string>();

const prefix = 'arvelt:records:';
const slotOf = (person: string, job: string) => `${prefix}${person}:${job}`;
const slots = new Slots<Kept>();

const change = (slot: string, key: string, to: (k: Kept) => Kept | undefined) =>
  slots.write(
    slot,
    slots.read(slot).flatMap((k) => (k.key === key ? (to(k) ?? []) : [k])),
  );

/** Forgets what a page held at hand; a test starts fresh with it. */
export const forget = () => slots.forget();

waitsFrom((person) =>
  Object.keys(localStorage)
    .filter((slot) => slot.startsWith(`${prefix}${person}:`))
    .flatMap((slot) =>
      slots.read(slot).map((k) => {
        const job = slot.slice(slot.lastIndexOf(':') + 1);
        const drop = () => change(slot, k.key, () => undefined);
        return {
          key: k.key,
          seq: k.record.sent?.seq ?? 0,
          send: () => post(job, k),
          done: drop,
          refuse: (why: Trouble) => change(slot, k.key, (was) => ({ ...was, refused: why.message })),
          refused: !!k.refused,
          path: `/api/jobs/${job}/records`,
          body: () => JSON.stringify(k.record),
          handed: drop,
        };
      }),
    ),
);

const post = (job: string, k: Kept) =>
  askJob(
    api.POST('/api/jobs/{id}/records', {
      params: { path: { id: job }, header: { 'Idempotency-Key': k.key, 'Device-Time': new Date().toISOString() } },
      body: k.record,
      signal: AbortSignal.timeout(slow),
    }),
  );

// A connection that has not answered by then is taken for none: what it asks is asked again.
const slow = 10_000;

/** What waits of a person on a job, sent again as long as any does. */
export function useKept(job: string) {
  const client = useQueryClient();
  const slot = slotOf(useMe().data?.id ?? '', job);
  const list = useSyncExternalStore(slots.subscribe, () => slots.read(slot));
  const kept = useMemo(() => list.filter((k) => !first.has(k.key)), [list]);
  const person = useMe().data?.id ?? '';
  return {
    kept,
    /** With what is being sent for the first time: all that the server has not answered. */
    unanswered: list,
    drop: (key: string) => change(slot, key, () => undefined),
    /** Sends what was refused again as it is mended: another write, of the time at which it was made. */
    mend: (key: string, record: NewRecord) => {
      change(slot, key, () => ({ key: newKey(), record }));
      void flush(client, person);
    },
  };
}

interface Options {
  onSuccess?: () => void; // also where it is kept here for a connection
}

/**
 * Records something in the person's name. Without a connection it is kept here with the time at
 * which it was made; what others must have seen is made with one only.
 */
export function useRecord(job: string) {
  const client = useQueryClient();
  const person = useMe().data?.id ?? '';
  const slot = slotOf(person, job);
  const together = usePracticeTerms(useContext(PracticeContext)).data?.together;
  const direct = useWrite((record: NewRecord, key) =>
    askJob(api.POST('/api/jobs/{id}/records', { params: { path: { id: job }, header: { 'Idempotency-Key': key } }, body: record })),
  );
  const [error, setError] = useState<Error | null>(null);
  const [isPending, setPending] = useState(false);
  const { mutate: now } = direct;
  const mutate = useCallback(
    (record: NewRecord, { onSuccess }: Options = {}) => {
      setError(null);
      if (!together || together.includes(record.kind)) {
        now(record, { onSuccess });
        return;
      }
      const key = newKey();
      const sent = { occurredAt: new Date().toISOString(), ...(lastSeen() && { seen: lastSeen() }), ...made() };
      first.add(key);
      slots.write(slot, [...slots.read(slot), { key, record: { ...record, sent } }]);
      setPending(true);
      void flush(client, person).then(() => {
        first.delete(key);
        setPending(false);
        const refused = slots.read(slot).find((k) => k.key === key)?.refused;
        if (refused === undefined) {
          change(slot, key, (k) => ({ ...k })); // from now on it is shown as kept, where it is
          onSuccess?.();
          return;
        }
        change(slot, key, () => undefined);
        setError(new Error(refused));
      });
    },
    [slot, person, client, together, now],
  );
  return { mutate, error: error ?? direct.error, isPending: isPending || direct.isPending };
}
