import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, newKey, type Of } from './client';

/** Whether a person ends the sessions of others and decides what these left. */
export const decides = (me: Of<'Me'> | undefined) => me?.role === 'owner' || me?.role === 'supervisor';

/** The company's people with how many sessions each has. */
export const usePeople = () => useQuery({ queryKey: ['people'], queryFn: () => ask(api.GET('/api/people')) });

/** Ends another person's sessions on every device. */
export function useEndSessions() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask(api.DELETE('/api/people/{id}/sessions', { params: { path: { id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['people'] }),
  });
}

/** What was left on devices whose session somebody else ended. */
export const useLeft = () => useQuery({ queryKey: ['left'], queryFn: () => ask(api.GET('/api/left')) });

/** Takes one over in the name of who made it, or sets it aside for a reason. */
export function useDecide() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, take, reason }: { id: string; take: boolean; reason?: string }) =>
      ask(api.POST('/api/left/{id}', { params: { path: { id }, header: { 'Idempotency-Key': newKey() } }, body: { take, reason } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['left'] }),
  });
}
