import { QueryClient, QueryClientProvider, useQueryClient } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { useMe, usePracticeTerms } from './job';
import { useSend } from './queue';
import { forget, useKept, useRecord } from './records';

interface Sent {
  key: string | null;
  note: string;
  seq: number;
}

// A server that is reached or not, and says what it is told to; it notes what came.
function serve() {
  const came: Sent[] = [];
  const state = { reached: true, status: 200 };
  vi.stubGlobal('fetch', async (request: Request) => {
    if (!state.reached) throw new TypeError('no network');
    const path = new URL(request.url).pathname;
    const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status });
    if (path === '/api/session') return json({ id: 'p1', locale: 'en-GB' });
    if (path === '/api/terms') return json({ together: ['energise'], locale: 'en-GB' });
    const body = (await request.json()) as { note: string; sent?: { seq: number } };
    came.push({ key: request.headers.get('Idempotency-Key'), note: body.note, seq: body.sent?.seq ?? 0 });
    return state.status === 200
      ? json({ id: 'job-1', version: 1, versions: {}, view: {} })
      : json({ status: 409, title: 'not so' }, state.status);
  });
  return { came, state };
}

function useBoth() {
  const me = useMe().data;
  useSend(useQueryClient(), me?.id); // as the page does
  return { record: useRecord('job-1'), ...useKept('job-1'), me, terms: usePracticeTerms('').data };
}

function open() {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false }, mutations: { retryDelay: 1 } } });
  const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={client}>{children}</QueryClientProvider>;
  return renderHook(useBoth, { wrapper });
}

beforeEach(() => {
  localStorage.clear();
  forget();
});
afterEach(() => vi.unstubAllGlobals());

/** Waits until it is known whose the page is and what needs others. */
const known = async (hook: ReturnType<typeof open>, state: { reached: boolean }) => {
  await waitFor(() => expect(hook.result.current.me && hook.result.current.terms).toBeTruthy());
  state.reached = false;
  return hook;
};

test('what is recorded without a connection waits in its order, survives the page and is sent once', async () => {
  const { came, state } = serve();
  const hook = await known(open(), state);
  const done = vi.fn();
  for (const note of ['one', 'two']) {
    act(() => hook.result.current.record.mutate({ kind: 'loose-end', note }, { onSuccess: done }));
    await waitFor(() => expect(hook.result.current.kept.some((k) => k.record.note === note)).toBe(true));
  }
  expect(done).toHaveBeenCalledTimes(2);
  expect(came).toEqual([]);
  hook.unmount();
  forget(); // another page

  state.reached = true;
  const again = open();
  await waitFor(() => expect(came.map((c) => c.note)).toEqual(['one', 'two']));
  expect(came[1].seq).toBe(came[0].seq + 1);
  expect(came[0].key).not.toBe(came[1].key);
  await waitFor(() => expect(again.result.current.kept).toEqual([]));
});

test('what was refused later stays with its reason, and what is refused at once is told at once', async () => {
  const { state } = serve();
  const hook = await known(open(), state);
  act(() => hook.result.current.record.mutate({ kind: 'loose-end', note: 'late' }));
  await waitFor(() => expect(hook.result.current.kept).toHaveLength(1));
  Object.assign(state, { reached: true, status: 409 });
  window.dispatchEvent(new Event('online'));
  await waitFor(() => expect(hook.result.current.kept[0].refused).toBe('not so'));

  act(() => hook.result.current.record.mutate({ kind: 'loose-end', note: 'now' }));
  await waitFor(() => expect(hook.result.current.record.error?.message).toBe('not so'));
  expect(hook.result.current.kept.map((k) => k.record.note)).toEqual(['late']);
  act(() => hook.result.current.drop(hook.result.current.kept[0].key));
  expect(hook.result.current.kept).toEqual([]);
});

test('what others must have seen is not kept for later', async () => {
  const { came, state } = serve();
  const hook = await known(open(), state);
  act(() => hook.result.current.record.mutate({ kind: 'energise' }));
  // Until it is given up: a try that is left over would reach the server of the next test.
  await waitFor(() => expect(hook.result.current.record.error).toBeTruthy());
  expect(hook.result.current.kept).toEqual([]);
  expect(came).toEqual([]);
});

test('what was refused is kept, mended and sent again as a write of its own, in its place', async () => {
  const { came, state } = serve();
  const hook = await known(open(), state);
  act(() => hook.result.current.record.mutate({ kind: 'loose-end', note: 'one' }));
  await waitFor(() => expect(hook.result.current.kept).toHaveLength(1));
  state.status = 409;
  state.reached = true;
  act(() => void window.dispatchEvent(new Event('online')));
  await waitFor(() => expect(hook.result.current.kept[0]?.refused).toBe('not so'));
  const { key, record } = hook.result.current.kept[0];
  state.status = 200;
  act(() => hook.result.current.mend(key, { ...record, note: 'one, mended' }));
  await waitFor(() => expect(hook.result.current.kept).toHaveLength(0));
  const last = came[came.length - 1];
  expect(last).toMatchObject({ note: 'one, mended', seq: record.sent?.seq });
  expect(last.key).not.toBe(key);
});
