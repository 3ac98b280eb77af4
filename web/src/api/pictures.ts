import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useSyncExternalStore } from 'react';
import { say } from '../words/words';
import { tagOf, whole } from './answer';
import { newKey, Trouble, type Of } from './client';
import { useMe } from './job';
import { database, type Waiting } from './database';
import { shrink } from './picture';
import { flush, made, waitsFrom } from './queue';

// Pictures wait in the browser's own database until the server has them, each with the time at
// which it was taken: they outlive the page. A browser without one keeps them as long as it is open.

const table = 'pictures';

let all: Waiting[] = [];
const listeners = new Set<() => void>();
const told = () => listeners.forEach((l) => l());
const subscribe = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

// What was kept before this page was opened.
const before = database?.then(async (db) => {
  const kept = await db.getAll(table);
  all = [...kept.filter((k) => !all.some((w) => w.key === k.key)), ...all];
  told();
});

// It is said to be kept once the database has it.
async function put(w: Waiting) {
  if (w.body) await database?.then((db) => db.put(table, w));
  all = all.some((x) => x.key === w.key) ? all.map((x) => (x.key === w.key ? w : x)) : [...all, w];
  told();
}

function drop(key: string) {
  all = all.filter((w) => w.key !== key);
  told();
  void database?.then((db) => db.delete(table, key));
}

const pathOf = (w: Waiting) =>
  `/api/jobs/${w.job}/photos?${new URLSearchParams({ subject: w.subject, occurredAt: w.at, device: w.device, seq: String(w.seq) })}`;

async function post(w: Waiting, body: Blob): Promise<Of<'JobView'>> {
  let answer: Response;
  try {
    answer = await fetch(pathOf(w), {
      method: 'POST',
      headers: {
        'Content-Type': 'image/jpeg',
        'Idempotency-Key': w.key,
        'Device-Time': new Date().toISOString(),
        ...(tagOf(w.job) && { 'Job-Tag': tagOf(w.job) }),
      },
      body,
    });
  } catch {
    throw new Trouble(0, { status: 0, title: say('No connection: the picture waits here.') });
  }
  const said: unknown = await answer.json();
  if (!answer.ok) throw new Trouble(answer.status, said as Of<'Problem'>);
  return whole(said as Of<'JobAnswer'>);
}

waitsFrom(async (person) => {
  await before;
  return all
    .filter((w) => w.person === person && w.body)
    .map((w) => ({
      key: w.key,
      seq: w.seq ?? 0,
      send: () => post(w, w.body as Blob),
      done: () => drop(w.key),
      refuse: (why: Trouble) => put({ ...w, refused: why.message }),
      refused: !!w.refused,
      path: pathOf(w),
      body: () => w.body as Blob,
      handed: () => drop(w.key),
    }));
});

/** The pictures of one thing that wait, and what takes one. */
export function usePictures(job: string, subject: string) {
  const person = useMe().data?.id ?? '';
  const client = useQueryClient();
  const list = useSyncExternalStore(subscribe, () => all);
  const take = useCallback(
    (files: Iterable<File>) => {
      for (const f of files) {
        const w: Waiting = { key: newKey(), person, job, subject, name: f.name, at: new Date().toISOString(), ...made() };
        void put(w);
        shrink(f)
          .then((body) => put({ ...w, body }))
          .then(() => flush(client, person))
          .catch((e: Error) => put({ ...w, refused: e.message }));
      }
    },
    [job, subject, person, client],
  );
  return { waiting: list.filter((w) => w.person === person && w.job === job && w.subject === subject), take, drop };
}
