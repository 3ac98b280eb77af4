import { QueryClient } from '@tanstack/react-query';
import { expect, test } from 'vitest';
import type { Of } from './client';
import { keptFrom, staleAfter } from './partKinds';

const kind = (name: string, stale: string[], by: string[]): Of<'PartKind'> => ({
  name,
  list: name === 'rooms',
  title: '',
  sheet: 'survey',
  by,
  stale,
});

const job = (versions: Record<string, number>, records = 0) =>
  ({ id: 'j', versions, view: { job: { practice: 'p', records: Array.from({ length: records }) } } }) as unknown as Of<'JobView'>;

function known() {
  const client = new QueryClient();
  client.setQueryData(['terms', 'p'], {
    parts: [kind('plan', ['desk'], ['owner']), kind('rooms', ['case', 'supply'], ['owner', 'apprentice'])],
  });
  return client;
}

const all = ['circuits', 'case', 'supply', 'desk'];

test('a write makes stale what its parts say, all of it where records came or nothing is known of a part', () => {
  const client = known();
  expect(staleAfter(client, job({ plan: 1 }), job({ plan: 2 }), all)).toEqual(['desk']);
  expect(staleAfter(client, job({ plan: 1 }), job({ plan: 1, 'rooms/r1': 1 }), all)).toEqual(['case', 'supply']);
  expect(staleAfter(client, job({ plan: 1, 'rooms/r1': 1 }), job({ plan: 2 }), all)).toEqual(['case', 'supply', 'desk']);
  expect(staleAfter(client, job({ plan: 1 }), job({ plan: 1 }), all)).toEqual([]);
  expect(staleAfter(client, job({ plan: 1 }), job({ plan: 1 }, 1), all)).toEqual(all);
  expect(staleAfter(client, undefined, job({}), all)).toEqual(all);
  expect(staleAfter(client, job({ odd: 1 }), job({ odd: 2 }), all)).toEqual(all);
  expect(staleAfter(new QueryClient(), job({ plan: 1 }), job({ plan: 2 }), all)).toEqual(all);
});

test('a part is kept from the roles that the registry names', () => {
  const client = known();
  client.setQueryData(['me'], { role: 'apprentice' });
  expect(keptFrom(client, job({}), 'plan')).toBe(true);
  expect(keptFrom(client, job({}), 'rooms/r1')).toBe(false);
  client.setQueryData(['me'], { role: 'owner' });
  expect(keptFrom(client, job({}), 'plan')).toBe(false);
});
