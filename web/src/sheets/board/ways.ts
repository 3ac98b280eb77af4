import type { Of } from '../../api/client';

type Board = Of<'Board'>;
type Circuit = Of<'Circuit'>;

/** The boards of a job, the main one first. */
export const boardsOf = (j: Of<'Job'>): Board[] => [j.board, ...j.boards];

/** What the circuits of a board name as that which feeds them: its distribution circuit or itself, nothing at the main board. */
export const feederOf = (b: Board): string => b.feed || b.id;

/** The name of the part of the job that a board is. */
export const partOfBoard = (b: Board): string => (b.id ? `boards/${b.id}` : 'board');

/** Whether a circuit is no part of the installation when the work is done. */
export const leaves = (c: Circuit): boolean => c.state === 'removed' || c.state === 'dormant';

/** The circuits that a board has when the work is done. */
export const circuitsOn = (j: Of<'Job'>, b: Board): Circuit[] => j.circuits.filter((c) => c.from === feederOf(b) && !leaves(c));

/** The circuits that leave a board. */
export const leaversOn = (j: Of<'Job'>, b: Board): Circuit[] => j.circuits.filter((c) => c.from === feederOf(b) && leaves(c));

/** The board on which a circuit stands, nothing where it was not written down. */
export const boardOf = (j: Of<'Job'>, c: Circuit): Board | undefined => boardsOf(j).find((b) => feederOf(b) === c.from);

/** The uses of circuits that feed a board. */
export const feedingUses = (terms?: Of<'Terms'>): Set<string> =>
  new Set(terms?.uses.filter((u) => u.asks.includes('feedsBoard')).map((u) => u.id));

/** The customer's enclosures of the supply arrangement that no board is, but for one board. */
export function freeEnclosures(j: Of<'Job'>, but?: Board): Of<'Enclosure'>[] {
  const taken = new Set(boardsOf(j).flatMap((b) => (b.id === but?.id ? [] : b.enclosure)));
  return j.chain.enclosures.filter((e) => e.owner === 'customer' && !taken.has(e.id));
}

/** The ways that a device takes: on a board of two columns its next pole lies two numbers on. */
export const waysOf = (no: number, poles: number, columns = 1): number[] =>
  columns === 2 ? Array.from({ length: Math.max(1, poles) }, (_, i) => no + 2 * i) : [no];

/** The ways that the device of a circuit takes, those of two lines that share a neutral by themselves. */
export function placesOf({ way, poles, shared }: Of<'Protection'>, columns = 1): number[] {
  return shared.is && shared.secondWay ? [way, shared.secondWay] : waysOf(way, poles, columns);
}

/** The ways of a board on which nothing stands, circuits of the job counted but for one; one with a free half where halves are asked for. */
export function freeWays(j: Of<'Job'>, b: Board, columns = 1, but = '', half: Of<'Protection'>['half'] = ''): Of<'Way'>[] {
  // What the board says of a way that a circuit leaves is that circuit.
  const left = new Set(leaversOn(j, b).flatMap((c) => placesOf(c.protection, columns)));
  const taken = new Set([
    ...b.ways.filter((w) => (w.label || w.device || w.circuit) && !left.has(w.no)).flatMap((w) => waysOf(w.no, w.poles, columns)),
    ...circuitsOn(j, b)
      .filter((c) => c.id !== but && !(half && c.protection.half && c.protection.half !== half))
      .flatMap((c) => placesOf(c.protection, columns)),
  ]);
  return b.ways.filter((w) => !taken.has(w.no) && (!half || w.halves));
}

/** Empty ways as they follow on those that are there. */
export function following(ways: Of<'Way'>[], count: number): Of<'Way'>[] {
  const last = Math.max(0, ...ways.map((w) => w.no));
  return Array.from({ length: count }, (_, i) => ({
    no: last + i + 1,
    label: '',
    device: '',
    circuit: '',
    blank: false,
    halves: false,
    poles: 0,
    loadA: 0,
  }));
}
