import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { askJob } from './answer';
import { api, type Of } from './client';
import { quoteQuery, useWrite } from './job';

/** The price of a job with what was offered of it, kept as the other sheets are. */
export const useQuote = (id: string) => useQuery({ ...quoteQuery(id), placeholderData: keepPreviousData });

const at = (id: string, key: string) => ({ params: { path: { id }, header: { 'Idempotency-Key': key } } });

/** Offers the price as it was seen. */
export const useOffer = (id: string) =>
  useWrite((body: Of<'OfferNow'>, key) => askJob(api.POST('/api/jobs/{id}/quote/offers', { ...at(id, key), body })));

/** Keeps what the client made of an offer. */
export const useAnswerQuote = (id: string) =>
  useWrite((body: Of<'QuoteAnswer'>, key) => askJob(api.POST('/api/jobs/{id}/quote/answers', { ...at(id, key), body })));
