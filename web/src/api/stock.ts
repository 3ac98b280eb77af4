import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { askJob } from './answer';
import { api, ask, newKey, type Of } from './client';
import { queries, useWrite } from './job';

const keyed = () => ({ 'Idempotency-Key': newKey() });

/** What of the company's stock could serve the job as it is now, and what the job will have left. */
export const useJobStock = (job: Of<'JobView'>) =>
  useQuery({
    queryKey: ['stock', job.id, job.tag],
    queryFn: () => ask(api.GET('/api/jobs/{id}/stock', { params: { path: { id: job.id } } })),
    placeholderData: keepPreviousData,
  });

/** Takes something out of the stock for a job. */
export const useTakeStock = (id: string) =>
  useWrite((body: Of<'StockTaken'>, key) =>
    askJob(api.POST('/api/jobs/{id}/stock/take', { params: { path: { id }, header: { 'Idempotency-Key': key } }, body })),
  );

/** Puts what somebody counted of a job's parts into the stock. */
export const useLeaveStock = (id: string) =>
  useWrite((body: Of<'StockLeft'>, key) =>
    askJob(api.POST('/api/jobs/{id}/stock/leave', { params: { path: { id }, header: { 'Idempotency-Key': key } }, body })),
  );

/** What lies in the vans and on the shelves of the company. */
export const useStock = () => useQuery({ queryKey: ['stock'], queryFn: () => ask(api.GET('/api/stock')) });

const changed = { onSuccess: () => void queries.invalidateQueries({ queryKey: ['stock'] }) };

/** Puts something into the stock that is of no job. */
export const useAddStock = () =>
  useMutation({ mutationFn: (body: Of<'StockAdded'>) => ask(api.POST('/api/stock', { params: { header: keyed() }, body })), ...changed });

/** Puts right how much lies there of something and where. */
export const useSetStock = () =>
  useMutation({
    mutationFn: ({ item, ...body }: { item: string } & Of<'StockSet'>) =>
      ask(api.POST('/api/stock/{item}', { params: { path: { item }, header: keyed() }, body })),
    ...changed,
  });
