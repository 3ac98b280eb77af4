import type { Of } from '../api/client';

/** Whether a person made a record: by who they are, by their name only where the record does not say who. */
export const madeBy = (r: Of<'Record'>, me: { id: string; name: string }) => (r.personId ? r.personId === me.id : r.by === me.name);
