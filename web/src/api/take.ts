import { useState } from 'react';
import { newKey, type Of } from './client';
import { keep, putPart, queries } from './job';
import { put } from './paths';

/** Changes circuits of a job as a remedy says, those that are left out excepted. */
export async function takeRemedy(job: Of<'JobView'>, r: Of<'Remedy'>, except = '') {
  for (const c of job.view.job?.circuits ?? []) {
    const to = `circuits/${c.id}`;
    const sets = r.sets.filter((s) => s.part === to && to !== except);
    if (sets.length === 0) continue;
    const body = sets.reduce<unknown>((b, s) => put(b, s.field, s.value), c);
    keep(queries, await putPart(job.id, to, job.versions[to] ?? 0, body, newKey()));
  }
}

/** Takes remedies on a sheet that does not itself edit circuits, with what went wrong. */
export function useTake(job: Of<'JobView'>): { take: (r: Of<'Remedy'>) => void; wrong: string } {
  const [wrong, setWrong] = useState('');
  const take = (r: Of<'Remedy'>) => {
    setWrong('');
    takeRemedy(job, r).catch((e: unknown) => setWrong(e instanceof Error ? e.message : String(e)));
  };
  return { take, wrong };
}
