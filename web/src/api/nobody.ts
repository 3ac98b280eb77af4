import type { Of } from './client';

/** A step on whose plan nobody has decided anything. */
export const nobody: Of<'TaskEdit'> = { crew: 0, hours: 0, who: '', day: '', atHeight: '', standBy: '' };
