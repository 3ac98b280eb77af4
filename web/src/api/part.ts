import { say } from '../words/words';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { newKey, Trouble, type Of } from './client';
import { keep, putPart } from './job';
import { own, ownerNow } from './own';
import { keptFrom } from './partKinds';
import { get, put, type Path } from './paths';
import { made, waitsFrom } from './queue';

// Editing one part of a job. What is typed lives in a draft that survives a
// reload, is saved whole against the version it was read from, and is never
// dropped by a failure: it stays until the server has acknowledged it.

/** What was typed into a part and is not saved. */
export interface Draft {
  base: number;
  body: unknown;
  // Once it was to be saved: the key of that write, this device's count, and why it was refused.
  key?: string;
  seq?: number;
  refused?: string;
}

/** How a part stands: as the server has it; typed; on its way; not reached; not accepted; changed by somebody else since. */
export type Status = 'saved' | 'draft' | 'saving' | 'failed' | 'refused' | 'conflict';

// A component that takes any part writes the paths that it is given.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export interface Part<T = any> {
  name: string;
  value: T;
  frozen: boolean;
  status: Status;
  summary: string;
  errors: Record<string, string>;
  theirs?: { by: string; at: string; body: unknown; version: number };
  /** Changes the draft without saving it. */
  set(this: void, path: Path<T>, value: unknown): void;
  /** Saves the draft, when there is one. */
  commit: () => void;
  /** Changes and saves at once. */
  save(this: void, path: Path<T>, value: unknown): void;
  keepMine: () => void;
  takeTheirs: () => void;
}

const slot = (id: string, part: string) => own(`draft:${id}:${part}`);

function stored(id: string, part: string): Draft | undefined {
  try {
    const text = localStorage.getItem(slot(id, part));
    return text ? (JSON.parse(text) as Draft) : undefined;
  } catch {
    return undefined;
  }
}

function store(id: string, part: string, draft: Draft | undefined) {
  try {
    if (draft) localStorage.setItem(slot(id, part), JSON.stringify(draft));
    else localStorage.removeItem(slot(id, part));
  } catch {
    // A full or closed storage loses only the survival of a reload.
  }
}

/** What a sheet that shows a part is told of its draft that the queue has sent. */
interface Told {
  saved: (answer: Of<'JobView'>, sent: Draft) => void;
  refused: (why: Trouble) => void;
}
const shown = new Map<string, Told>(); // by slot
const direct = new Set<string>(); // slots that a sheet is sending itself

const draftsOf = (person: string) => {
  const prefix = `arvelt:${person}:draft:`;
  return Object.keys(localStorage)
    .filter((at) => at.startsWith(prefix))
    .flatMap((at) => {
      const [job, ...rest] = at.slice(prefix.length).split(':');
      const part = rest.join(':');
      const draft = stored(job, part);
      return draft?.key ? [{ at, job, part, draft }] : [];
    });
};

waitsFrom((person) =>
  draftsOf(person)
    .filter(({ at }) => !direct.has(at))
    .map(({ at, job, part, draft }) => ({
      key: draft.key as string,
      seq: draft.seq ?? 0,
      send: () => putPart(job, part, draft.base, draft.body, draft.key as string),
      done: (answer) => {
        const now = stored(job, part);
        // What was typed on meanwhile stays, against what is saved now.
        if (now?.key === draft.key) store(job, part, undefined);
        else if (now) store(job, part, { base: answer.versions[part], body: now.body });
        shown.get(at)?.saved(answer, draft);
      },
      refuse: (why) => {
        const now = stored(job, part);
        if (now && now.key === draft.key) store(job, part, { ...now, refused: why.message });
        shown.get(at)?.refused(why);
      },
      refused: !!draft.refused,
      path: `/api/jobs/${job}/parts?${new URLSearchParams({ part, base: String(draft.base) })}`,
      body: () => JSON.stringify(draft.body),
      handed: () => store(job, part, undefined),
    })),
);

/** The drafts of a job that wait for a connection, or that were refused while nobody looked. */
export function useDrafts(job: string): { part: string; draft: Draft }[] {
  const [list, setList] = useState<{ part: string; draft: Draft }[]>([]);
  useEffect(() => {
    const look = () => {
      const next = draftsOf(ownerNow()).filter((d) => d.job === job && !shown.has(d.at));
      setList((was) => (JSON.stringify(was) === JSON.stringify(next) ? was : next));
    };
    look();
    const timer = window.setInterval(look, lookAgain);
    return () => window.clearInterval(timer);
  }, [job]);
  return list;
}

const lookAgain = 1500;

/** The part as it is in an answer of the server. */
function partOf(answer: Of<'JobView'>, name: string): unknown {
  const j = answer.view.job;
  const one =
    (name.startsWith('circuits/') && j?.circuits.find((c) => `circuits/${c.id}` === name)) ||
    (name.startsWith('boards/') && j?.boards.find((b) => `boards/${b.id}` === name)) ||
    (name.startsWith('rooms/') && j?.rooms.find((r) => `rooms/${r.id}` === name));
  if (name === 'rules') return j && { edition: j.edition };
  return one || j?.[name as keyof typeof j];
}

/**
 * One part of a job as it is edited: its value is what was typed, or what the server has.
 *
 * `set` changes the draft, `commit` saves it, `save` does both. A draft survives a reload and a lost connection, is saved
 * against the version that it was typed over, and is never dropped by a failure.
 *
 * @param name - of the part, such as `site` or `circuits/c1`.
 * @param server - the part as the job has it.
 */
export function usePart<T>(job: Of<'JobView'>, name: string, server: T): Part<T> {
  const client = useQueryClient();
  const version = job.versions[name] ?? 0;
  const [draft, setDraft] = useState<Draft | undefined>(() => stored(job.id, name));
  const [status, setStatus] = useState<Status>(() => (stored(job.id, name) ? 'draft' : 'saved'));
  const [summary, setSummary] = useState('');
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [theirs, setTheirs] = useState<Part['theirs']>();
  const now = useRef({ draft, version, server, busy: false, again: false, key: '', of: '', refused: '' });
  // A save's answer is known here before it is rendered: an older render must
  // not take it back, or the next edit would start from what was there before.
  if (version >= now.current.version) {
    now.current.version = version;
    now.current.server = server;
  }

  const change = useCallback(
    (next: Draft | undefined) => {
      now.current.draft = next;
      setDraft(next);
      store(job.id, name, next);
    },
    [job.id, name],
  );

  const commit = useCallback(async () => {
    const n = now.current;
    if (!n.draft) return;
    if (n.busy) {
      n.again = true;
      return;
    }
    const sent = n.draft;
    const text = JSON.stringify(sent);
    if (n.refused === text) return; // leaving a field sends nothing that was refused already
    if (n.of !== text) [n.of, n.key] = [text, newKey()]; // a retry of the same write keeps its key
    n.busy = true;
    direct.add(slot(job.id, name));
    store(job.id, name, { ...sent, key: n.key, seq: made().seq }); // from now on the queue sends it where this does not
    setStatus('saving');
    try {
      const answer = await putPart(job.id, name, sent.base, sent.body, n.key);
      n.version = answer.versions[name];
      n.server = partOf(answer, name) as T;
      keep(client, answer);
      setErrors({});
      setSummary('');
      setTheirs(undefined);
      if (n.draft === sent) {
        change(undefined);
        setStatus('saved');
      } else {
        // Typed on meanwhile: that is sent when its field is left, not half typed.
        change({ base: answer.versions[name], body: n.draft.body });
        setStatus('draft');
      }
    } catch (e) {
      const t = e instanceof Trouble ? e : new Trouble(0, { status: 0, title: String(e) });
      setSummary(t.message);
      if (t.status === 409 && t.problem.theirs) {
        setTheirs(t.problem.theirs);
        store(job.id, name, n.draft);
        setStatus('conflict');
      } else if (t.status === 422) {
        setErrors(
          Object.fromEntries(
            (t.problem.fields ?? []).map((f) => [
              f.field,
              say('“{{value}}” is not accepted: {{accept}}.', { value: f.value, accept: f.accept }),
            ]),
          ),
        );
        n.refused = text;
        store(job.id, name, n.draft);
        setStatus('refused');
      } else {
        setStatus('failed');
      }
      // What was left to send while this was refused may be what mends it.
      n.again = n.again && t.status === 422 && n.draft !== sent;
    }
    n.busy = false;
    direct.delete(slot(job.id, name));
    if (n.again) {
      n.again = false;
      void commit();
    }
  }, [job.id, name, client, change]);

  // A save that failed for want of a connection is sent by the queue, which says here what became of it.
  useEffect(() => {
    const at = slot(job.id, name);
    shown.set(at, {
      saved: (answer, sent) => {
        const n = now.current;
        n.version = answer.versions[name];
        n.server = partOf(answer, name) as T;
        setSummary('');
        if (!n.draft || JSON.stringify(n.draft.body) === JSON.stringify(sent.body)) {
          change(undefined);
          setStatus('saved');
        } else {
          change({ base: answer.versions[name], body: n.draft.body });
          setStatus('draft');
        }
      },
      refused: () => void commit(), // sent again from here, it is said at its field
    });
    return () => void shown.delete(at);
  }, [job.id, name, change, commit]);

  const set = useCallback(
    (path: string, value: unknown) => {
      const n = now.current;
      const body = n.draft ? n.draft.body : n.server;
      if (get(body, path) === value) return;
      change({ base: n.draft ? n.draft.base : n.version, body: put(body, path, value) });
      setStatus((s) => (s === 'saving' || s === 'conflict' ? s : 'draft'));
    },
    [change],
  );

  return {
    name,
    value: (draft ? draft.body : server) as T,
    frozen: job.view.frozen || keptFrom(client, job, name),
    status,
    summary,
    errors,
    theirs,
    set,
    commit: () => void commit(),
    save: (path, value) => {
      set(path, value);
      void commit();
    },
    keepMine: () => {
      if (!theirs || !now.current.draft) return;
      change({ base: theirs.version, body: now.current.draft.body });
      void commit();
    },
    takeTheirs: () => {
      change(undefined);
      setTheirs(undefined);
      setStatus('saved');
      setErrors({});
      setSummary('');
      void client.invalidateQueries({ queryKey: ['job', job.id] });
    },
  };
}
