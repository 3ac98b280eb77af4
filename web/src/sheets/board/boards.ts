import { newKey, type Of } from '../../api/client';
import { keep, putParts, queries } from '../../api/job';
import { noFact } from '../../parts/fields';
import { say } from '../../words/words';
import { freeId } from '../circuits/add';
import { following } from './ways';

/** An id that no board of the job has. */
export function freeBoardId(boards: Of<'Board'>[]): string {
  let n = boards.length + 1;
  while (boards.some((b) => b.id === `b${n}`)) n++;
  return `b${n}`;
}

/** A board of which nothing is known but how many ways it has. */
export function emptyBoard(b: Partial<Of<'Board'>>, ways: number): Of<'Board'> {
  return {
    id: '',
    name: '',
    location: '',
    feed: '',
    enclosure: '',
    new: true,
    place: '',
    material: '',
    mainSwitchA: noFact,
    ratingA: noFact,
    ways: following([], ways),
    mostCircuits: 0,
    groups: [],
    space: { depthMM: 0, widthMM: 0, heightMM: 0, boardMM: 0, topMM: 0, handleMM: 0, door90: null },
    joined: null,
    makerRDF: 0,
    conditionalKA: 0,
    ...b,
  };
}

/** What feeds a board that is added: a circuit or an enclosure of the job by its id, or a distribution circuit that is made with it. */
export type Fed = { circuit: string } | { enclosure: string } | { fresh: Of<'Circuit'> };

/** Adds a further board, with the distribution circuit that feeds it where that is new: both are saved or neither. */
export async function addBoard(job: Of<'JobView'>, name: string, ways: number, fed: Fed): Promise<string> {
  const j = job.view.job;
  const id = freeBoardId(j?.boards ?? []);
  const bodies: Record<string, unknown> = {};
  const board: Partial<Of<'Board'>> = { id, name, new: !job.view.about.report };
  if ('fresh' in fed) {
    board.feed = freeId(j?.circuits ?? []);
    bodies[`circuits/${board.feed}`] = { ...fed.fresh, id: board.feed, name: say('Feed of {{name}}', { name }) };
  } else if ('circuit' in fed) board.feed = fed.circuit;
  else board.enclosure = fed.enclosure;
  bodies[`boards/${id}`] = emptyBoard(board, ways);
  keep(queries, await putParts(job, say('add {{name}}', { name }), bodies, newKey()));
  return id;
}
