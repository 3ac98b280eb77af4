import { localeNow } from '../words/words';

/** A day as people call it in a week, with its date. */
export const dayName = (day: string) =>
  new Date(`${day}T12:00:00Z`).toLocaleDateString(localeNow(), { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' });
