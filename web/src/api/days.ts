import { useQuery } from '@tanstack/react-query';
import { api, ask } from './client';
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
