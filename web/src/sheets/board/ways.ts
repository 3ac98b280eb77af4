import type { Of } from '../../api/client';

/** The ways that a device takes: on a board of two columns its next pole lies two numbers on. */
export const waysOf = (no: number, poles: number, columns = 1): number[] =>
  columns === 2 ? Array.from({ length: Math.max(1, poles) }, (_, i) => no + 2 * i) : [no];

/** The ways on which nothing stands, circuits of the job counted but for one. */
export function freeWays(j: Of<'Job'>, columns = 1, but = ''): Of<'Way'>[] {
  const taken = new Set([
    ...j.board.ways.filter((w) => w.label || w.device || w.circuit).flatMap((w) => waysOf(w.no, w.poles, columns)),
    ...j.circuits.filter((c) => c.id !== but && !c.from).flatMap((c) => waysOf(c.protection.way, c.protection.poles, columns)),
  ]);
  return j.board.ways.filter((w) => !taken.has(w.no));
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
    poles: 0,
    loadA: 0,
  }));
}
