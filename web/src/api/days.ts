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
