import { useState } from 'react';
import { newKey, type Of } from './client';
import { keep, putParts, queries } from './job';
import { put } from './paths';

/** What is changed in circuits, under a title. */
export type Change = Partial<Of<'Remedy'>> & Pick<Of<'Remedy'>, 'title' | 'sets'>;

/** Changes the circuits of a job as a remedy says, together or not at all. */
export async function takeRemedy(job: Of<'JobView'>, r: Change) {
  const bodies: Record<string, unknown> = {};
  for (const c of job.view.job?.circuits ?? []) {
    const to = `circuits/${c.id}`;
    const sets = r.sets.filter((s) => s.part === to);
    if (sets.length > 0) bodies[to] = sets.reduce<unknown>((b, s) => put(b, s.field, s.value), c);
  }
  keep(queries, await putParts(job, r.title, bodies, newKey()));
}

/** Takes remedies on a sheet that does not itself edit circuits, with what went wrong. */
export function useTake(job: Of<'JobView'>): { take: (r: Change) => void; wrong: string } {
  const [wrong, setWrong] = useState('');
  const take = (r: Change) => {
    setWrong('');
    takeRemedy(job, r).catch((e: unknown) => setWrong(e instanceof Error ? e.message : String(e)));
  };
  return { take, wrong };
}
