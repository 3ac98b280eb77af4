import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { api, ask, type Of } from './client';
import type { Part } from './part';
import { get, put } from './paths';

/** A part that is changed without being saved, and what the whole job would come to. */
export interface Trial<T> {
  part: Part<T>;
  changed: boolean;
  result?: Of<'WhatIf'>;
  error: Error | null;
  drop: () => void;
}

/**
 * A part that is changed to see what would come of it, and kept only when that is asked for.
 *
 * @param on - whether it is tried; else nothing is computed.
 */
export function useTrial<T>(job: Of<'JobView'>, name: string, server: T, on: boolean): Trial<T> {
  const [body, setBody] = useState<T>();
  const asked = useDeferredValue(body);
  const text = JSON.stringify(asked);
  const query = useQuery({
    queryKey: ['what-if', job.id, job.version, name, text],
    queryFn: () =>
      ask(
        api.POST('/api/jobs/{id}/what-if', {
          params: { path: { id: job.id }, query: { part: name } },
          body: asked as Record<string, never>,
        }),
      ),
    enabled: on && asked !== undefined,
    placeholderData: (old) => old,
    retry: false,
  });
  const set = (path: string, value: unknown) => {
    setBody((b) => {
      const from = b ?? server;
      return get(from, path) === value ? b : put<T>(from, path, value);
    });
  };
  return {
    part: {
      name,
      value: body ?? server,
      frozen: job.view.frozen,
      status: 'saved',
      summary: '',
      errors: {},
      set,
      commit: () => {},
      save: set,
      keepMine: () => {},
      takeTheirs: () => {},
    },
    changed: body !== undefined,
    result: body === undefined ? undefined : query.data,
    error: query.error,
    drop: () => setBody(undefined),
  };
}
