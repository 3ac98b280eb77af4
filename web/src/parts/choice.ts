/** One of the things that may be chosen. */
export interface Choice {
  id: string;
  name: string;
}
