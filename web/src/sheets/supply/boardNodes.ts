import type { Of } from '../../api/client';
import { boardsOf, circuitsOn, feederOf } from '../board/ways';

/** A board as it stands in the drawing of the supply. */
export interface BoardNode {
  id: string; // of the board; empty for the main one
  name: string;
  at: string; // the enclosure that it is, or by what it is fed, as `node` says
  own: boolean; // drawn by itself: it is no enclosure of the supply arrangement
  feed?: Of<'Circuit'>;
  circuits: number;
  ways: number;
  new: boolean;
}

/** The node by which a board is drawn, or that of the enclosure that it is. */
export const node = (b: Of<'Board'>): string => b.enclosure || `board:${b.id}`;

/**
 * The boards of a job beside the enclosures of its supply arrangement, each after that which feeds it. A main board of which nobody said
 * which enclosure it is stands by itself where others hang on it, and else is not drawn beside the arrangement.
 */
export function boardNodes(j: Of<'Job'>): BoardNode[] {
  const boards = boardsOf(j);
  return boards
    .filter((b) => b.id || b.enclosure || j.boards.length > 0)
    .map((b) => {
      const feed = j.circuits.find((c) => c.id === b.feed);
      const on = feed && boards.find((x) => feederOf(x) === feed.from);
      return {
        id: b.id,
        name: b.name,
        at: b.enclosure || (on ? node(on) : ''),
        own: !b.enclosure,
        feed,
        circuits: circuitsOn(j, b).length,
        ways: b.ways.length,
        new: b.new,
      };
    });
}
