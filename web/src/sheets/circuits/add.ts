import { newKey, type Of } from '../../api/client';
import { keep, putPart, queries } from '../../api/job';

/** An id that no circuit of the job has. */
export function freeId(circuits: Of<'Circuit'>[]): string {
  let n = circuits.length + 1;
  while (circuits.some((c) => c.id === `c${n}`)) n++;
  return `c${n}`;
}

/** Adds a circuit to a job under an id of its own, which it returns. */
export async function addCircuit(job: Of<'JobView'>, circuit: Of<'Circuit'>): Promise<string> {
  const id = freeId(job.view.job?.circuits ?? []);
  keep(queries, await putPart(job.id, `circuits/${id}`, 0, { ...circuit, id }, newKey()));
  return id;
}
