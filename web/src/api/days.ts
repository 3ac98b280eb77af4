import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, newKey, type Of } from './client';
import { keep, putPart, readJob } from './job';
import { nobody } from './nobody';
import { reading } from './reading';

/** The jobs of whoever is signed in on this day; as they were last read where there is no connection. */
export const useToday = () => useQuery({ queryKey: ['today'], queryFn: () => reading('today', () => ask(api.GET('/api/today'))) });

/** The jobs of the company on which people are at risk now. */
export const useDangers = () => useQuery({ queryKey: ['dangers'], queryFn: () => reading('dangers', () => ask(api.GET('/api/dangers'))) });

/**
 * What is planned in a week.
 *
 * @param from - its first day; empty for the week of today.
 */
export const useWeek = (from: string) =>
  useQuery({
    queryKey: ['week', from],
    queryFn: () => reading(`week:${from}`, () => ask(api.GET('/api/week', { params: { query: { from } } }))),
  });

/** The hours of the work beside what it took on the company's jobs. */
export const useNorms = () => useQuery({ queryKey: ['norms'], queryFn: () => ask(api.GET('/api/norms')) });

/** Days for the open steps of all jobs, as they are proposed now. */
export const useProposal = () =>
  useQuery({ queryKey: ['proposal'], queryFn: () => ask(api.GET('/api/days')), staleTime: Infinity, gcTime: 0 });

/** What part of the search for days is done, asked while it runs. */
export const useLooking = (running: boolean) =>
  useQuery({ queryKey: ['looking'], queryFn: () => ask(api.GET('/api/days/looking')), enabled: running, refetchInterval: 250, gcTime: 0 });

/** Who is away on days to come, and the weather. */
export const useOutlook = () => useQuery({ queryKey: ['outlook'], queryFn: () => ask(api.GET('/api/outlook')) });

/** Keeps who is away and the weather; nothing for a forecast that is made up. */
export function useSetOutlook() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (o: Of<'Outlook'> | null) => (o ? ask(api.PUT('/api/outlook', { body: o })) : ask(api.POST('/api/outlook/simulated'))),
    onSuccess: (o) => {
      client.setQueryData(['outlook'], o);
      return Promise.all([client.invalidateQueries({ queryKey: ['week'] }), client.invalidateQueries({ queryKey: ['proposal'] })]);
    },
  });
}

/** Two steps whose days somebody fixed change them. */
export function useSwapDays() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ job, step }: { job: string; step: Of<'ProposedStep'> }) => {
      const other = step.swap!;
      const put = async (id: string, days: Record<string, string>) => {
        const j = await readJob(id);
        const plan = j.view.job!.plan;
        const tasks = { ...plan.tasks };
        for (const [task, day] of Object.entries(days)) tasks[task] = { ...(tasks[task] ?? nobody), day };
        keep(client, await putPart(id, 'plan', j.versions.plan ?? 0, { ...plan, tasks }, newKey()));
      };
      if (other.job === job) await put(job, { [step.task]: other.day, [other.task]: step.day });
      else {
        await put(job, { [step.task]: other.day });
        await put(other.job, { [other.task]: step.day });
      }
    },
    onSettled: () => Promise.all([client.invalidateQueries({ queryKey: ['proposal'] }), client.invalidateQueries({ queryKey: ['week'] })]),
  });
}

/** Takes what is proposed of a job over into its plan: what somebody fixed stays as it is. */
export function useTakeDays() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (j: Of<'ProposedJob'>) => {
      const job = await readJob(j.id);
      const plan = job.view.job!.plan;
      const tasks = { ...plan.tasks };
      for (const s of j.steps.filter((x) => !x.fixed)) {
        const now = tasks[s.task] ?? nobody;
        tasks[s.task] = { ...now, who: s.who.join(', '), day: s.day, standBy: s.standBy };
      }
      keep(client, await putPart(j.id, 'plan', job.versions.plan ?? 0, { ...plan, tasks }, newKey()));
    },
    onSettled: () => Promise.all([client.invalidateQueries({ queryKey: ['proposal'] }), client.invalidateQueries({ queryKey: ['week'] })]),
  });
}
