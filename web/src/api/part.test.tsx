import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import type { Of } from './client';
import { ownedBy } from './own';
import { useDrafts, usePart } from './part';
import { flush } from './queue';

type Site = { customer: string; town: string };
const job = (version: number, site: Site) =>
  ({
    id: 'j',
    version,
    versions: { site: version },
    signedRevisions: [],
    view: { frozen: false, job: { site, circuits: [] } },
  }) as unknown as Of<'JobView'>;

interface Sent {
  base: string | null;
  key: string | null;
  body: Site;
}

// A server that answers each save as the test says.
function server(answers: ((sent: Sent) => Response | Error)[]) {
  const sent: Sent[] = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    const s = {
      base: new URL(request.url).searchParams.get('base'),
      key: request.headers.get('Idempotency-Key'),
      body: (await request.json()) as Site,
    };
    sent.push(s);
    const answer = (answers.shift() ?? answers[0])(s);
    if (answer instanceof Error) throw answer;
    return answer;
  });
  return sent;
}

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), {
    status,
    headers: { 'Content-Type': status < 300 ? 'application/json' : 'application/problem+json' },
  });
const saved = (s: Sent) => json(200, job(Number(s.base) + 1, s.body));

function open(start = job(1, { customer: 'C', town: 'T' })) {
  const client = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={client}>{children}</QueryClientProvider>;
  return renderHook(({ j }) => usePart<Site>(j, 'site', j.view.job?.site as unknown as Site), { wrapper, initialProps: { j: start } });
}

beforeEach(() => localStorage.clear());
afterEach(() => vi.unstubAllGlobals());

test('an edit during a save starts from what was just saved', async () => {
  const sent = server([saved, saved]);
  const { result } = open();
  act(() => result.current.save('customer', 'D'));
  act(() => result.current.save('town', 'U'));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]).toMatchObject({ base: '2', body: { customer: 'D', town: 'U' } });
  await waitFor(() => expect(result.current.status).toBe('saved'));
});

test('an edit right after a save, before it is rendered, does not take it back', async () => {
  const sent = server([saved, saved]);
  const { result } = open();
  await act(async () => {
    result.current.save('customer', 'D');
    await Promise.resolve();
  });
  await waitFor(() => expect(result.current.status).toBe('saved'));
  act(() => result.current.save('town', 'U')); // the job that is rendered is still the old one
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]).toMatchObject({ base: '2', body: { customer: 'D', town: 'U' } });
});

test('a lost connection keeps the draft, and the retry has the same key', async () => {
  const sent = server([() => new TypeError('network'), saved]);
  const { result, unmount } = open();
  act(() => result.current.save('customer', 'D'));
  await waitFor(() => expect(result.current.status).toBe('failed'));
  expect(result.current.value.customer).toBe('D');
  act(() => result.current.commit());
  await waitFor(() => expect(result.current.status).toBe('saved'));
  expect(sent[1].key).toBe(sent[0].key);
  unmount();
});

test('a draft survives a reload', () => {
  server([]);
  const first = open();
  act(() => first.result.current.set('customer', 'typed'));
  first.unmount();
  const again = open();
  expect(again.result.current.value.customer).toBe('typed');
  expect(again.result.current.status).toBe('draft');
});

test('a refused value is named, kept and not sent again unchanged', async () => {
  const sent = server([
    () => json(422, { status: 422, title: 'no', fields: [{ field: 'site.customer', value: '', accept: 'some text' }] }),
  ]);
  const { result } = open();
  act(() => result.current.save('customer', ''));
  await waitFor(() => expect(result.current.status).toBe('refused'));
  expect(result.current.errors['site.customer']).toContain('some text');
  act(() => result.current.commit());
  expect(sent).toHaveLength(1);
  act(() => result.current.takeTheirs());
  expect(result.current.value.customer).toBe('C');
});

test('a clash shows both, and keeping mine saves over theirs', async () => {
  const theirs = { version: 5, by: 'Somebody', at: '2026-05-04T09:00:00Z', body: { customer: 'X', town: 'T' } };
  const sent = server([() => json(409, { status: 409, title: 'stale', theirs }), saved]);
  const { result } = open();
  act(() => result.current.save('customer', 'D'));
  await waitFor(() => expect(result.current.status).toBe('conflict'));
  expect(result.current.theirs?.by).toBe('Somebody');
  expect(result.current.value.customer).toBe('D');
  act(() => result.current.keepMine());
  await waitFor(() => expect(result.current.status).toBe('saved'));
  expect(sent[1].base).toBe('5');
});

test('what is half typed when a save is answered is not sent before its field is left', async () => {
  const sent = server([saved, saved]);
  const { result } = open();
  act(() => result.current.save('customer', 'D'));
  act(() => result.current.set('town', '0'));
  await waitFor(() => expect(result.current.status).toBe('draft'));
  expect(sent).toHaveLength(1);
  act(() => result.current.set('town', '0.21'));
  act(() => result.current.commit());
  await waitFor(() => expect(result.current.status).toBe('saved'));
  expect(sent.map((s) => s.body.town)).toEqual(['T', '0.21']);
});

test('what mends a refused save is sent though it was left while that was under way', async () => {
  const refused = () => json(422, { status: 422, title: 'no', fields: [{ field: 'site.town', value: '0', accept: 'more' }] });
  const sent = server([refused, saved]);
  const { result } = open();
  act(() => result.current.save('town', '0'));
  act(() => result.current.set('town', '0.21'));
  act(() => result.current.commit());
  await waitFor(() => expect(result.current.status).toBe('saved'));
  expect(sent.map((s) => s.body.town)).toEqual(['0', '0.21']);
  expect(result.current.errors).toEqual({});
});

test('an edit that could not be sent is sent by the queue after its sheet was left, once, under its key', async () => {
  ownedBy('p1');
  const sent = server([() => new TypeError('network'), () => new TypeError('network'), saved]);
  const first = open();
  act(() => first.result.current.save('customer', 'D'));
  await waitFor(() => expect(first.result.current.status).toBe('failed'));
  first.unmount();
  const client = new QueryClient();
  const drafts = renderHook(() => useDrafts('j'));
  await waitFor(() => expect(drafts.result.current.map((d) => d.part)).toEqual(['site']));
  while (sent.length < 3) await flush(client, 'p1');
  expect(new Set(sent.map((s) => s.key)).size).toBe(1);
  expect(sent[2].body.customer).toBe('D');
  expect(localStorage.getItem('arvelt:p1:draft:j:site')).toBeNull();
  await flush(client, 'p1');
  expect(sent).toHaveLength(3);
  expect(client.getQueryData<Of<'JobView'>>(['job', 'j'])?.versions.site).toBe(2);
});

test('an edit that was refused while nobody looked is kept with why, and sent in nobody else’s name', async () => {
  ownedBy('p1');
  const sent = server([() => new TypeError('network'), () => json(409, { status: 409, title: 'Remy changed it' })]);
  const first = open();
  act(() => first.result.current.save('customer', 'D'));
  await waitFor(() => expect(first.result.current.status).toBe('failed'));
  first.unmount();
  const client = new QueryClient();
  await flush(client, 'p2');
  await flush(client, '');
  expect(sent).toHaveLength(1);
  await flush(client, 'p1');
  await flush(client, 'p1');
  expect(sent).toHaveLength(2);
  const drafts = renderHook(() => useDrafts('j'));
  await waitFor(() => expect(drafts.result.current[0]?.draft).toMatchObject({ refused: 'Remy changed it', body: { customer: 'D' } }));
});
