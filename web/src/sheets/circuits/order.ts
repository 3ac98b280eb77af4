import { say } from '../../words/words';
import { newKey, type Of } from '../../api/client';
import { keep, putParts, queries } from '../../api/job';

type Circuit = Of<'Circuit'>;

/** Circuits as the boards have them: by way, what a circuit feeds after it, those without a way last. */
export function inOrder<R extends { id: string }>(circuits: Circuit[], rows: R[]): R[] {
  const place = (c: Circuit) => (c.protection.way > 0 ? c.protection.way : 1000);
  const sorted = [...circuits].sort((a, b) => place(a) - place(b));
  const known = new Set(circuits.map((c) => c.id));
  const out: string[] = [];
  const walk = (from: string) => {
    for (const c of sorted.filter((x) => x.from === from && !out.includes(x.id))) {
      out.push(c.id);
      walk(c.id);
    }
  };
  walk('');
  for (const from of new Set(sorted.map((c) => c.from))) if (!known.has(from)) walk(from); // boards of the supply arrangement
  const at = (id: string) => (out.includes(id) ? out.indexOf(id) : out.length); // one that feeds itself stays, last
  return [...rows].sort((a, b) => at(a.id) - at(b.id));
}

/** Where a circuit stands, in short: its way, behind an arrow where that is on a further board. */
export function wayOf(circuits: Circuit[], id: string): string {
  const c = circuits.find((x) => x.id === id);
  if (!c) return '';
  const { way, half, ownEnclosure } = c.protection;
  if (c.from) return way > 0 ? `↳ ${way}${half}` : '↳';
  return way > 0 ? `${way}${half}` : ownEnclosure ? 'own' : '–';
}

/** Lets two circuits of a board change ways, both or neither. */
export async function swapWays(job: Of<'JobView'>, a: string, b: string) {
  const circuits = job.view.job?.circuits ?? [];
  const [one, two] = [a, b].map((id) => circuits.find((c) => c.id === id));
  if (!one || !two || job.view.frozen) return;
  if (one.from !== two.from || !one.protection.way || !two.protection.way)
    throw new Error(
      say('“{{name}}” and “{{name2}}” do not both stand on a way of one board: give them one first.', {
        name: one.name,
        name2: two.name,
      }),
    );
  const on = (c: Circuit, way: number) => ({ [`circuits/${c.id}`]: { ...c, protection: { ...c.protection, way } } });
  const title = say('swap ways {{a}} and {{b}}', { a: one.protection.way, b: two.protection.way });
  keep(queries, await putParts(job, title, { ...on(one, two.protection.way), ...on(two, one.protection.way) }, newKey()));
}
