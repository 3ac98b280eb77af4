import { computed, queries } from './job';
import { useEffect } from 'react';
import { afterWrites } from './answer';
import { type Of } from './client';
import { reportHere } from './clear';
import { endEarly } from './early';

interface Changed {
  what: string;
  id: string;
  version: number;
}

/**
 * Follows the stream of changes. A browser opens only a few connections to one
 * server, so of all its tabs one holds the stream and passes it on to the others.
 */
function follow(onChange: (e: Changed) => void): () => void {
  const tabs = new BroadcastChannel('arvelt-events');
  tabs.onmessage = (m) => onChange(m.data as Changed);
  const over = new AbortController();
  const lead = () =>
    new Promise<void>((done) => {
      const source = new EventSource('/api/events');
      source.onmessage = (m: MessageEvent<string>) => {
        const e = JSON.parse(m.data) as Changed;
        tabs.postMessage(e);
        onChange(e);
      };
      over.signal.addEventListener('abort', () => {
        source.close();
        done();
      });
    });
  // Locks need a secure origin; without them each tab holds a stream of its own.
  if ('locks' in navigator) navigator.locks.request('arvelt-events', { signal: over.signal }, lead).catch(() => {});
  else void lead();
  return () => {
    over.abort();
    tabs.close();
  };
}

/** Asks again for what others changed in the company. */
export function useEvents(signedIn: boolean) {
  useEffect(() => {
    if (!signedIn) return;
    return follow((e) => afterWrites(() => changed(e)));
  }, [signedIn]);
}

let listed = 0;

const listEvery = 3000;

/** The list of jobs is asked for again at most every few seconds, however much is changed. */
function listAgain() {
  if (listed) return;
  listed = window.setTimeout(() => {
    listed = 0;
    for (const list of ['jobs', 'today', 'week', 'dangers']) void queries.invalidateQueries({ queryKey: [list] });
  }, listEvery);
}

function changed(e: Changed) {
  endEarly();
  if (e.what === 'resync') void queries.invalidateQueries();
  if (e.what === 'company') {
    void queries.invalidateQueries({ queryKey: ['company'] });
    for (const of of computed) void queries.invalidateQueries({ queryKey: [of] });
    void queries.invalidateQueries({ queryKey: ['job'] });
  }
  if (e.what === 'ask') void reportHere(e.id).catch(() => {});
  if (e.what === 'left') void queries.invalidateQueries({ queryKey: ['left'] });
  if (e.what === 'desk') void queries.invalidateQueries({ queryKey: ['desk', e.id] });
  if (e.what === 'stock') void queries.invalidateQueries({ queryKey: ['stock'] });
  if (e.what === 'merchant') void queries.invalidateQueries({ queryKey: ['merchant', e.id] });
  if (e.what !== 'job') return;
  listAgain();
  const have = queries.getQueryData<Of<'JobView'>>(['job', e.id]);
  if (have && have.version >= e.version) return;
  void queries.invalidateQueries({ queryKey: ['job', e.id] });
  void queries.invalidateQueries({ queryKey: ['steps', e.id] });
  for (const of of computed) void queries.invalidateQueries({ queryKey: [of, e.id] });
}
