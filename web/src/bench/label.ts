import type { Of } from '../api/client';

/** What the keys of a result are called and in which unit they are, as the practice says. */
export type KeyNames = Record<string, Of<'KeyName'>>;

/** One of the words that a calculation answers with, to be read. */
export const words = (key: string) => key.replaceAll('_', ' ').replaceAll('-', ' ');
