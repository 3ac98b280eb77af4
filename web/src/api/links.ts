import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask } from './client';

/** Links of a job that are good: those of other trades, and those of its calendar. */
export const useJobLinks = (id: string) =>
  useQuery({ queryKey: ['links', id], queryFn: () => ask(api.GET('/api/jobs/{id}/links', { params: { path: { id } } })) });

/** Makes a link of a job: for a trade, or for its calendar. */
export function useShareJob(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { kind: string; subject?: string }) => ask(api.POST('/api/jobs/{id}/links', { params: { path: { id } }, body })),
    onSettled: () => client.invalidateQueries({ queryKey: ['links', id] }),
  });
}

/** Links by which a calendar shows one's own days. */
export const useMyLinks = () => useQuery({ queryKey: ['links'], queryFn: () => ask(api.GET('/api/links')) });

/** Makes one. */
export function useShareMine() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => ask(api.POST('/api/links')),
    onSettled: () => client.invalidateQueries({ queryKey: ['links'] }),
  });
}

/** Withdraws a link: it shows nothing any more. */
export function useUnshare() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask(api.DELETE('/api/links/{id}', { params: { path: { id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['links'] }),
  });
}

/** What another trade is shown by a link. */
export const useWith = (link: string) =>
  useQuery({ queryKey: ['with', link], queryFn: () => ask(api.POST('/api/with', { body: { link } })), retry: false, gcTime: 0 });
