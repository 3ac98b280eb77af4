import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, newKey, type Of } from './client';

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

const settled = (client: ReturnType<typeof useQueryClient>) => () => client.invalidateQueries({ queryKey: ['people'] });

/** Adds a person; the answer has the link by which they set their password. */
export function useInvite() {
  const client = useQueryClient();
  return useMutation({ mutationFn: (body: Of<'NewColleague'>) => ask(api.POST('/api/people', { body })), onSettled: settled(client) });
}

/** Makes a new link by which a person sets their password; older ones are good no more. */
export function useNewLink() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask(api.POST('/api/people/{id}/link', { params: { path: { id } } })),
    onSettled: settled(client),
  });
}

/** Changes a person's role, or says that they have left or are back. */
export function useChangeColleague() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, role, left }: { id: string; role: string; left: boolean }) =>
      ask(api.PUT('/api/people/{id}', { params: { path: { id } }, body: { role, left } })),
    onSettled: settled(client),
  });
}

/** Authorises a person. */
export function useGrant() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, body }: { id: string; body: Of<'NewAuthorisation'> }) =>
      ask(api.POST('/api/people/{id}/authorisations', { params: { path: { id } }, body })),
    onSettled: settled(client),
  });
}

/** Withdraws an authorisation. */
export function useWithdraw() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask(api.DELETE('/api/authorisations/{id}', { params: { path: { id } } })),
    onSettled: settled(client),
  });
}

/** The sessions of a person. */
export const useSessions = (id: string) =>
  useQuery({
    queryKey: ['people', id, 'sessions'],
    queryFn: () => ask(api.GET('/api/people/{id}/sessions', { params: { path: { id } } })),
  });

/** Changes one's own password. */
export const useChangePassword = () =>
  useMutation({ mutationFn: (body: { current: string; password: string }) => ask(api.PUT('/api/password', { body })) });

const page = 100;

/** What happened in the company beside the edits of its jobs, the newest first. */
export const useHappenings = () =>
  useInfiniteQuery({
    queryKey: ['people', 'happenings'],
    queryFn: ({ pageParam }) => ask(api.GET('/api/happenings', { params: { query: pageParam ? { before: pageParam } : {} } })),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.length < page ? undefined : last.at(-1)?.seq),
  });
