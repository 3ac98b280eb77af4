import { keepPreviousData, useQuery, type QueryClient } from '@tanstack/react-query';
import { api, ask, type Of } from './client';
import { reading } from './reading';
import { say } from '../words/words';

type Cuts = Of<'CutsSheet'>;

const keyOf = (id: string) => ['cuts', id];

// Whoever looks at the plans of a job may stop looking for better ones.
const looking = new Map<string, AbortController>();

/** Stops looking for better cut plans of a job: the best so far stay. */
export const stopCuts = (id: string) => looking.get(id)?.abort();

/** Reads cut plans as they are shown, a line each, and answers the last; those before it are shown at once. */
async function look(client: QueryClient, id: string, left: AbortSignal): Promise<Cuts> {
  const stop = new AbortController();
  looking.set(id, stop);
  let best: Cuts | undefined;
  try {
    const body = await ask(
      api.GET('/api/jobs/{id}/cuts', { params: { path: { id } }, parseAs: 'stream', signal: AbortSignal.any([stop.signal, left]) }),
    );
    for await (const line of lines(body as unknown as ReadableStream<Uint8Array>)) {
      best = JSON.parse(line) as Cuts;
      if (!best.done) client.setQueryData(keyOf(id), best);
    }
  } catch (e) {
    if (!stop.signal.aborted || !best) throw e;
  } finally {
    if (looking.get(id) === stop) looking.delete(id);
  }
  if (!best) throw new Error(say('Arvelt did not answer as expected.'));
  return best;
}

async function* lines(body: ReadableStream<Uint8Array>) {
  const reader = body.pipeThrough(new TextDecoderStream() as TransformStream<Uint8Array, string>).getReader();
  let text = '';
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    const parts = (text + next.value).split('\n');
    text = parts.pop() ?? '';
    yield* parts;
  }
  if (text) yield text;
}

/** The cut plans of a job: the best so far while better ones are looked for. */
export const useCuts = (id: string) =>
  useQuery({
    queryKey: keyOf(id),
    queryFn: ({ client, signal }) => reading(`cuts:${id}`, () => look(client, id, signal)),
    placeholderData: keepPreviousData,
  });
