import { staleAfter } from './partKinds';
import { insist } from './waiting';
import { learn } from '../words/words';
import { keepPreviousData, QueryClient, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { askJob, remember, whole } from './answer';
import { api, ask, newKey, type Of } from './client';
import { early, endEarly } from './early';
import { ownedBy } from './own';
import { keepRead, reading, useConnection, whenUp } from './reading';

/** What was read of the server in this page. What changes elsewhere is told by events; it is never asked for again by time alone. */
export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      networkMode: 'always',
      retry: (n, e) => n < 2 && 'status' in e && e.status === 0,
      refetchOnWindowFocus: false,
    },
  },
});

const params = (id: string) => ({ params: { path: { id } } });

const keyed = (key: string) => ({ 'Idempotency-Key': key });

/** An answer that is spoken in a locale comes with its catalogue. */
async function spoken<T extends { locale: string }>(answer: T): Promise<T> {
  await learn(answer.locale);
  return answer;
}

// Once the server answers again everything on screen is asked for anew.
whenUp(() => void queries.invalidateQueries());

const whileDown = 5000;

/** Who is signed in; without a connection who was when there was one. */
export function useMe() {
  const { down } = useConnection();
  return useQuery({
    queryKey: ['me'],
    queryFn: async () => {
      const me = await spoken(await reading('me', async () => (await early('me')) ?? (await ask(api.GET('/api/session'))), ''));
      ownedBy(me.id);
      return me;
    },
    retry: false,
    refetchInterval: down ? whileDown : false,
  });
}
/** The practice of the job that is open; a page without a job has the first. */

export const PracticeContext = createContext('');

/**
 * The names that a practice accepts, what they are called, and what it asks for.
 *
 * @param practice - its id, empty for the first one; undefined while it is not known, then nothing is read.
 */
export const usePracticeTerms = (practice: string | undefined) =>
  useQuery({
    queryKey: ['terms', practice],
    enabled: practice !== undefined, // that of a job is not known before the job is
    queryFn: async () => {
      const read = async () => {
        const came = practice ? await early('terms') : undefined;
        if (came && came.id === practice) return came;
        return ask(api.GET('/api/terms', { params: { query: practice ? { practice } : {} } }));
      };
      return spoken(await reading(`terms:${practice}`, read, ''));
    },
    staleTime: Infinity,
  });

/** The terms of the practice that the page is about. */
export const useTerms = () => usePracticeTerms(useContext(PracticeContext));
/** Whether a use asks for a field of a circuit; none while the terms are on their way. */

/** Whether the practice asks a circuit of a use for a field; no field is asked for while the terms are not there. */
export function useAsks(use: string): (field: string) => boolean {
  const asks = useTerms().data?.uses.find((u) => u.id === use)?.asks;
  return (field) => asks?.includes(field) ?? false;
}
/** Whether the practice asks for a field of a sheet or table; none while the terms are on their way. */

/** Whether the practice asks a sheet or table for a field. */
export function useSheetAsks(sheet: string): (field: string) => boolean {
  const asks = useTerms().data?.asks?.[sheet];
  return (field) => asks?.includes(field) ?? false;
}

/** The company with its prices, instruments and choices. */
export const useCompany = () => useQuery({ queryKey: ['company'], queryFn: () => reading('company', () => ask(api.GET('/api/company'))) });
/** What is typed, once it has been left as it is for a moment. */

/**
 * A text as it was when nobody had typed for a moment.
 *
 * @param ms - how long that is.
 */
export function usePaused(text: string, ms = 250): string {
  const [still, setStill] = useState(text);
  useEffect(() => {
    const timer = window.setTimeout(() => setStill(text), text ? ms : 0);
    return () => window.clearTimeout(timer);
  }, [text, ms]);
  return still;
}

/** The jobs in which every word typed stands, page by page; a search that is overtaken is given up. */
export function useJobs(q: string) {
  const list = useInfiniteQuery({
    queryKey: ['jobs', q],
    queryFn: ({ pageParam, signal }) => {
      const page = () =>
        ask(api.GET('/api/jobs', { params: { query: { ...(q && { q }), ...(pageParam && { after: pageParam }) } }, signal }));
      return q || pageParam ? page() : reading('jobs', page);
    },
    initialPageParam: '',
    getNextPageParam: (last) => last.next || undefined,
    placeholderData: keepPreviousData,
  });
  const rows = useMemo(() => list.data?.pages.flatMap((p) => p.jobs), [list.data]);
  return { ...list, rows, total: list.data?.pages[0]?.total ?? 0, exact: list.data?.pages[0]?.exact ?? true };
}

/** Reads a job whole; without a connection as it was read last. */
export const readJob = (id: string) =>
  reading(`job:${id}`, async () => whole((await early('jobAnswer', id)) ?? (await ask(api.GET('/api/jobs/{id}', params(id))))));

function sheet<T>(name: string, read: (id: string) => Promise<T>) {
  return (id: string) => ({ queryKey: [name, id], queryFn: () => reading(`${name}:${id}`, () => read(id)) });
}

const jobQuery = (id: string) => ({ queryKey: ['job', id], queryFn: () => readJob(id) });

const circuitsQuery = sheet('circuits', async (id) => (await early('circuits', id)) ?? ask(api.GET('/api/jobs/{id}/circuits', params(id))));

const caseQuery = sheet('case', (id) => ask(api.GET('/api/jobs/{id}/case', params(id))));

const supplyQuery = sheet('supply', async (id) => (await early('supply', id)) ?? ask(api.GET('/api/jobs/{id}/supply', params(id))));

const deskQuery = sheet('desk', (id) => ask(api.GET('/api/jobs/{id}/desk', params(id))));

const outdoorQuery = sheet('outdoor', (id) => ask(api.GET('/api/jobs/{id}/outdoor', params(id))));

const darkQuery = sheet('dark', (id) => ask(api.GET('/api/jobs/{id}/dark', params(id))));

/** What is claimed of the deliveries of a job. */
export const goodsQuery = sheet('goods', (id) => ask(api.GET('/api/jobs/{id}/goods', params(id))));

export const vanQuery = sheet('van', (id) => ask(api.GET('/api/jobs/{id}/van', params(id))));

export const quoteQuery = sheet('quote', (id) => ask(api.GET('/api/jobs/{id}/quote', params(id))));

/** What is computed of a job and read by itself. */
export const computed = ['circuits', 'case', 'supply', 'desk', 'outdoor', 'dark', 'goods', 'cuts', 'quote', 'van'];

/** A job with all that is computed of it at once. */
export const useJob = (id: string) => useQuery(jobQuery(id));

/** The Circuits sheet: every check with its working. While a newer one is read the one before is shown. */
export const useCircuits = (id: string) => useQuery({ ...circuitsQuery(id), placeholderData: keepPreviousData });

/** The survey's report, kept as {@link useCircuits} is. */
export const useCase = (id: string) => useQuery({ ...caseQuery(id), placeholderData: keepPreviousData });

/** The supply as judged, kept as {@link useCircuits} is. */
export const useSupply = (id: string) => useQuery({ ...supplyQuery(id), placeholderData: keepPreviousData });

/** The letters to the operator and their answers, kept as {@link useCircuits} is. */
export const useDesk = (id: string) => useQuery({ ...deskQuery(id), placeholderData: keepPreviousData });

/** Trenches, overhead runs and electrodes worked out, kept as {@link useCircuits} is. */
export const useOutdoor = (id: string) => useQuery({ ...outdoorQuery(id), placeholderData: keepPreviousData });

/** What goes dark by each device, kept as {@link useCircuits} is. */
export const useDark = (id: string) => useQuery({ ...darkQuery(id), placeholderData: keepPreviousData });

const taken = 10 * 60_000;

/** Reads the jobs that a person takes along with all their sheets, so that they are there without a connection. */
export async function takeAlong(client: QueryClient, stop: AbortSignal) {
  const rows = await ask(api.GET('/api/jobs/soon', { signal: stop }));
  for (const { id } of rows) {
    if (stop.aborted) return;
    const job = await client.fetchQuery({ ...jobQuery(id), staleTime: taken });
    const practice = job.view.job?.practice;
    if (practice) await reading(`terms:${practice}`, () => ask(api.GET('/api/terms', { params: { query: { practice } } })), '');
    await client.prefetchQuery({ ...circuitsQuery(id), staleTime: taken });
    await client.prefetchQuery({ ...supplyQuery(id), staleTime: taken });
    await client.prefetchQuery({ ...outdoorQuery(id), staleTime: taken });
    await client.prefetchQuery({ ...caseQuery(id), staleTime: taken });
    await client.prefetchQuery({ ...deskQuery(id), staleTime: taken });
  }
}

/** Asks the simulated forecast for the day of the outage. */
export const askForecast = (id: string) => ask(api.GET('/api/jobs/{id}/forecast', params(id)));

/** Who changed what, read anew each time it is opened. */
export const useHistory = (id: string, open: boolean) =>
  useQuery({ queryKey: ['history', id], queryFn: () => ask(api.GET('/api/jobs/{id}/history', params(id))), enabled: open, staleTime: 0 });

/** Takes the server's answer to a write as the job's newest state. */
export function keep(client: QueryClient, answer: Of<'JobView'>) {
  endEarly();
  const job = { queryKey: ['job', answer.id], exact: true };
  const old = client.getQueryData<Of<'JobView'>>(job.queryKey);
  const overtaken = client.isFetching(job) > 0; // it was asked for before this write, and would come after it
  if (!old || old.version <= answer.version) {
    client.setQueryData(job.queryKey, answer);
    void keepRead(`job:${answer.id}`, answer);
  }
  if (overtaken) void client.invalidateQueries({ ...job, refetchType: 'all' });
  for (const of of staleAfter(client, old, answer, computed)) void client.invalidateQueries({ queryKey: [of, answer.id] });
  for (const list of ['jobs', 'today', 'week', 'dangers']) void client.invalidateQueries({ queryKey: [list] });
  void client.invalidateQueries({ queryKey: ['history', answer.id] });
  if (JSON.stringify(old?.versions) !== JSON.stringify(answer.versions)) void client.invalidateQueries({ queryKey: ['steps', answer.id] });
}

/**
 * Saves one part whole.
 *
 * @param base - the version that it was read at: another one on the server is answered 409 with what is there.
 * @param key - the same for every try of one write.
 */
export const putPart = (id: string, part: string, base: number, body: unknown, key: string) =>
  askJob(
    api.PUT('/api/jobs/{id}/parts', {
      params: { path: { id }, query: { part, base }, header: keyed(key) },
      body: body as Record<string, never>,
    }),
  );

/** Changes parts together under a title: all are saved or none, and one undo takes all of them back. */
export const putParts = (job: Of<'JobView'>, title: string, bodies: Record<string, unknown>, key: string) =>
  askJob(
    api.POST('/api/jobs/{id}/parts', {
      params: { path: { id: job.id }, header: keyed(key) },
      body: {
        title: title.slice(0, 120),
        parts: Object.entries(bodies).map(([part, body]) => ({ part, base: job.versions[part] ?? 0, body: body as Record<string, never> })),
      },
    }),
  );

/**
 * A write that is tried again when the connection is lost. The same write keeps
 * its key until it is acknowledged, also when a person presses once more, so
 * that it is done once.
 */
export function useWrite<V>(write: (v: V, key: string) => Promise<Of<'JobView'>>) {
  const client = useQueryClient();
  const last = useRef({ of: '', key: '' });
  return useMutation({
    mutationFn: (v: V) => {
      const of = JSON.stringify(v) ?? '';
      if (last.current.of !== of || !last.current.key) last.current = { of, key: newKey() };
      const { key } = last.current;
      return insist(() => write(v, key));
    },
    onSuccess: (a) => {
      last.current.key = '';
      keep(client, a);
    },
    networkMode: 'always',
  });
}

/** Sends a letter to the operator's desk. */
export const useSendToDesk = (id: string) =>
  useWrite((v: Of<'DeskLetterRequest'>, key) =>
    askJob(api.POST('/api/jobs/{id}/desk', { params: { path: { id }, header: keyed(key) }, body: v })),
  );

/** Signs the revision in work, with the password of whoever signs. */
export const useSign = (id: string) =>
  useWrite((v: { password: string; note: string }, key) =>
    askJob(api.POST('/api/jobs/{id}/sign', { params: { path: { id }, header: keyed(key) }, body: v })),
  );

/** Takes a line of the walk, or a room's line anew. */
export const useWalk = (id: string) =>
  useWrite((v: Of<'WalkText'>, key) => askJob(api.POST('/api/jobs/{id}/walk', { params: { path: { id }, header: keyed(key) }, body: v })));

/** The figures at each point of the run of a circuit with their working, of the job as it is in a version. */
export const useRunWorking = (id: string, circuit: string, version: number) =>
  useQuery({
    queryKey: ['run', id, circuit, version],
    queryFn: () => ask(api.GET('/api/jobs/{id}/runs', { params: { path: { id }, query: { circuit } } })),
    placeholderData: keepPreviousData,
  });

/** Does one thing to the runs of circuits. */
export const useChangeRun = (id: string) =>
  useWrite((v: Of<'RunChange'>, key) => askJob(api.POST('/api/jobs/{id}/runs', { params: { path: { id }, header: keyed(key) }, body: v })));

/** The circuits that are proposed for the points of the walk, as the job is now. */
export const useProposal = (job: Of<'JobView'>, open: boolean) =>
  useQuery({ queryKey: ['design', job.id, job.tag], queryFn: () => ask(api.GET('/api/jobs/{id}/design', params(job.id))), enabled: open });

/** What is to be opened to work at a place, beside what is open, of the job as it is in a version. */
export const useDeadPlan = (job: Of<'JobView'>, place: string, open: string[]) =>
  useQuery({
    queryKey: ['dead', job.id, job.version, place, open.join()],
    queryFn: () => ask(api.GET('/api/jobs/{id}/dead', { params: { path: { id: job.id }, query: { place, open } } })),
    enabled: place !== '',
    placeholderData: keepPreviousData,
  });

/** Takes circuits of a proposal. */
export const useTakeProposal = (id: string) =>
  useWrite((v: Of<'ProposalChoice'>, key) =>
    askJob(api.POST('/api/jobs/{id}/design', { params: { path: { id }, header: keyed(key) }, body: v })),
  );

/** Works out a variation, or agrees it: then the job is answered too. */
export const vary = (id: string, body: Of<'Variation'>, key: string) =>
  ask(api.POST('/api/jobs/{id}/variations', { params: { path: { id }, header: keyed(key) }, body })).then((a) => {
    if (a.job) remember(a.job);
    return a;
  });

/** Makes the job of a change that is planned for later. */
export const makeVisit = (id: string, body: { later: string }, key: string) =>
  askJob(api.POST('/api/jobs/{id}/visits', { params: { path: { id }, header: keyed(key) }, body }));

/** Takes an entry of a list off the job, such as a circuit of which nothing was recorded. */
export const useRemovePart = (id: string) =>
  useWrite((v: { part: string; base: number }, key) =>
    askJob(api.DELETE('/api/jobs/{id}/parts', { params: { path: { id }, query: v, header: keyed(key) } })),
  );

/** With what the next job of the company begins: its reference by the company's pattern, practice and kind. */
export const useNextJob = () =>
  useQuery({ queryKey: ['next-job'], queryFn: () => ask(api.GET('/api/jobs/next')), staleTime: 0, gcTime: 0, retry: false });

/** Starts a job. */
export const startJob = (body: Of<'NewJob'>, key: string) => askJob(api.POST('/api/jobs', { params: { header: keyed(key) }, body }));

/**
 * Imports a job file.
 *
 * @param text - the file as it is; the server says what is wrong with it.
 * @param as - another reference for a copy, without its seals; empty for its own.
 */
export const importJob = (text: string, as: string, key: string) =>
  askJob(
    api.POST('/api/jobs/import', {
      params: { header: keyed(key), query: as ? { as } : {} },
      body: text as unknown as Of<'Job'>,
      bodySerializer: (b) => b as unknown as string,
      headers: { 'Content-Type': 'application/json' },
    }),
  );

/** Saves the company's settings against the version that was read. */
export const saveCompany = (body: Of<'Company'>, key: string) => ask(api.PUT('/api/company', { params: { header: keyed(key) }, body }));
