import { openDB, type DBSchema } from 'idb';

/** What was read of the server, for when it cannot be reached. */
export interface Read {
  key: string; // person and what was read
  person: string;
  at: string; // when, by the device's clock
  data: unknown;
}

/** A picture that the server does not have yet. */
export interface Waiting {
  key: string;
  person: string;
  job: string;
  subject: string;
  name: string;
  body?: Blob; // none while it is being shrunk
  at: string; // when it was taken, by the device's clock
  device: string;
  seq: number;
  refused?: string; // why it is not taken; it waits for a person
}

interface Tables extends DBSchema {
  pictures: { key: string; value: Waiting };
  read: { key: string; value: Read; indexes: { at: string } };
}

/** The browser's own database; a browser without one keeps things as long as the page is open. */
export const database =
  'indexedDB' in globalThis
    ? openDB<Tables>('arvelt', 2, {
        upgrade(db, from) {
          if (from < 1) db.createObjectStore('pictures', { keyPath: 'key' });
          if (from < 2) db.createObjectStore('read', { keyPath: 'key' }).createIndex('at', 'at');
        },
      })
    : undefined;
