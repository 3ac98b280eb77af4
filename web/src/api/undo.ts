import { useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { askJob } from './answer';
import { api, ask, type Of } from './client';
import { useWrite } from './job';

const path = (id: string, key: string) => ({ params: { path: { id }, header: { 'Idempotency-Key': key } } });

/** What a person can take back and bring back on a job, and the acts of both. */
export function useSteps(id: string) {
  const can = useQuery({ queryKey: ['steps', id], queryFn: () => ask(api.GET('/api/jobs/{id}/undo', { params: { path: { id } } })) }).data;
  const [asks, setAsks] = useState(false);
  const close = useCallback(() => setAsks(false), []);
  const back = useWrite((body: Of<'TakeBack'>, key) => askJob(api.POST('/api/jobs/{id}/undo', { ...path(id, key), body })));
  const again = useWrite((_: void, key) => askJob(api.POST('/api/jobs/{id}/redo', path(id, key))));
  const { mutate: take } = back;
  const { mutate: redo } = again;
  const held = !!can?.undo?.blocked.length;
  return {
    can,
    asks,
    close,
    /** Takes the last command back, or asks what of it where somebody has changed some of it since. */
    undo: useCallback(() => (held ? setAsks(true) : take({ command: '', free: false })), [held, take]),
    redo: useCallback(() => redo(), [redo]),
    take: useCallback(
      (which: Of<'TakeBack'>) => {
        setAsks(false);
        take(which);
      },
      [take],
    ),
    error: back.error ?? again.error,
  };
}

/** What the person can take back and bring back, and what does so. */
export type Steps = ReturnType<typeof useSteps>;
