import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, type Of } from './client';
import { queries } from './job';
import { countWaiting } from './queue';

const at = (id: string) => ({ params: { path: { id } } });

/** Notes that somebody asks to energise a part of a job: every device of the company is asked to report. */
export function useAskClear(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => ask(api.POST('/api/jobs/{id}/clear', at(id))),
    onSuccess: (answer) => client.setQueryData(['clear', id], answer),
  });
}

/** Who may be on the site of a job, and whose device has reported since that was asked. */
export const useWhoIsClear = (id: string) =>
  useQuery({
    queryKey: ['clear', id],
    queryFn: () => ask(api.GET('/api/jobs/{id}/clear', at(id))),
    refetchInterval: 3000,
    refetchIntervalInBackground: true, // whoever waits for it may look at another page
  });

/** Reports that this device is there, where nothing waits on it to be sent. Where it does not get through it counts as not seen. */
export async function reportHere(job: string) {
  const person = queries.getQueryData<Of<'Me'>>(['me'])?.id;
  if (person && (await countWaiting(person)) === 0) await api.POST('/api/jobs/{id}/here', at(job));
}
