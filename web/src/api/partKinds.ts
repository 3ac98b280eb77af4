import type { QueryClient } from '@tanstack/react-query';
import type { Of } from './client';

// What the registry of the server says of the parts of a job: who may edit one, where, and what a
// change of it makes stale.

type Kind = Of<'PartKind'>;

/** The kind of a part by its name, once the words of the practice are there. */
export function kindOf(kinds: Kind[] | undefined, part: string): Kind | undefined {
  const [head] = part.split('/');
  return kinds?.find((k) => k.name === head);
}

const kindsAt = (client: QueryClient, job: Of<'JobView'>) =>
  client.getQueryData<Of<'Terms'>>(['terms', job.view.job?.practice ?? ''])?.parts;

/** Whether the person who is signed in is of a role that may not edit a part. */
export function keptFrom(client: QueryClient, job: Of<'JobView'>, part: string): boolean {
  const role = client.getQueryData<Of<'Me'>>(['me'])?.role;
  const kind = kindOf(kindsAt(client, job), part);
  return !!role && !!kind && !kind.by.includes(role);
}

/** What is read by itself and stale after a write: what the parts that it changed say, or all of it where records came. */
export function staleAfter(client: QueryClient, old: Of<'JobView'> | undefined, now: Of<'JobView'>, all: readonly string[]): string[] {
  const kinds = old && kindsAt(client, now);
  if (!old || !kinds || old.view.job?.records.length !== now.view.job?.records.length) return [...all];
  const changed = [...new Set([...Object.keys(old.versions), ...Object.keys(now.versions)])].filter(
    (p) => old.versions[p] !== now.versions[p],
  );
  return all.filter((read) => changed.some((p) => kindOf(kinds, p)?.stale.includes(read) ?? true));
}
