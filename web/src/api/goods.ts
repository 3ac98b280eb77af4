import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { askJob } from './answer';
import { api, ask, newKey, type Of } from './client';
import { goodsQuery, queries, useWrite, vanQuery } from './job';

/** What is claimed of the deliveries of a job, kept as the other sheets are. */
export const useGoods = (id: string) => useQuery({ ...goodsQuery(id), placeholderData: keepPreviousData });

/** What goes into the van for the steps that are open, kept for where there is no connection. */
export const useVan = (id: string) => useQuery({ ...vanQuery(id), placeholderData: keepPreviousData });

/** A file as it is, in base64. */
export async function sentFile(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = '';
  for (const b of bytes) text += String.fromCharCode(b);
  return btoa(text);
}

/** Reads a delivery note against the order list of a job; nothing is kept. */
export const useReadNote = (id: string) =>
  useMutation({
    mutationFn: async (file: Blob) =>
      ask(api.POST('/api/jobs/{id}/deliveries/read', { params: { path: { id } }, body: { content: await sentFile(file) } })),
  });

/** Books in a delivery as somebody counted it. */
export const useReceive = (id: string) =>
  useWrite((body: Of<'Delivery'>, key) =>
    askJob(api.POST('/api/jobs/{id}/deliveries', { params: { path: { id }, header: { 'Idempotency-Key': key } }, body })),
  );

/** Says what a price list would change of the company's, and changes it where that is asked for. */
export const useImportPrices = () =>
  useMutation({
    mutationFn: async ({ file, take, version }: { file: Blob; take: boolean; version: number }) =>
      ask(
        api.POST('/api/prices/import', {
          params: { header: { 'Idempotency-Key': newKey() } },
          body: { content: await sentFile(file), take, version },
        }),
      ),
    onSuccess: (_, { take }) => take && void queries.invalidateQueries({ queryKey: ['company'] }),
  });

/** What may be taken in the place of a product, of the job as it is now. */
export const useSubstitutes = (job: Of<'JobView'>, product: string) =>
  useQuery({
    queryKey: ['substitutes', job.id, job.tag, product],
    queryFn: () => ask(api.GET('/api/jobs/{id}/substitutes', { params: { path: { id: job.id }, query: { product } } })),
  });

/** Puts another product in the place of one, on every circuit that asks for it. */
export const useSubstitute = (id: string) =>
  useWrite((body: Of<'Substitution'>, key) =>
    askJob(api.POST('/api/jobs/{id}/substitutes', { params: { path: { id }, header: { 'Idempotency-Key': key } }, body })),
  );

/** What may be ordered of the merchant for the job as it is now, how the orders stand, and the notes that came. */
export const useMerchant = (job: Of<'JobView'>) =>
  useQuery({
    queryKey: ['merchant', job.id, job.tag],
    queryFn: () => ask(api.GET('/api/jobs/{id}/merchant', { params: { path: { id: job.id } } })),
    placeholderData: keepPreviousData,
  });

/** Asks the merchant for price, stock and day of some products; nothing is kept. */
export const useAskMerchant = (id: string) =>
  useMutation({
    mutationFn: (products: string[]) => ask(api.POST('/api/jobs/{id}/merchant/enquiry', { params: { path: { id } }, body: { products } })),
  });

/** Sends an order of some products to the merchant. */
export const useOrder = (id: string) =>
  useWrite((products: string[], key) =>
    askJob(
      api.POST('/api/jobs/{id}/merchant/orders', { params: { path: { id }, header: { 'Idempotency-Key': key } }, body: { products } }),
    ),
  );

/** Notes that an order was withdrawn by telephone, with whom. */
export const useWithdrawOrder = (id: string) =>
  useWrite(({ order, ...body }: { order: string; with: string }, key) =>
    askJob(
      api.POST('/api/jobs/{id}/merchant/orders/{order}/withdraw', {
        params: { path: { id, order }, header: { 'Idempotency-Key': key } },
        body,
      }),
    ),
  );
