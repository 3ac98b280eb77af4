import { useEffect, useState } from 'react';
import { useAskClear, useWhoIsClear } from '../../api/clear';
import type { Of } from '../../api/client';

/** Asks every device of the company to report as somebody is about to energise, and says who did and who is confirmed clear. */
export function useClearance(job: string) {
  const { mutate: ask } = useAskClear(job);
  const { data } = useWhoIsClear(job);
  const lapsed = data?.asked === null; // it was not asked yet, or too long ago
  useEffect(() => {
    if (lapsed) ask();
  }, [ask, lapsed]);
  const people = data?.people ?? [];
  const [clear, setClear] = useState<Record<string, Of<'Cleared'>>>({});
  const missing = people.filter((p) => !p.reported);
  const confirmed = missing.flatMap((p) => (clear[p.name]?.how.trim() && clear[p.name].by.trim() ? [clear[p.name]] : []));
  return { people, clear, setClear, confirmed, complete: confirmed.length === missing.length };
}
