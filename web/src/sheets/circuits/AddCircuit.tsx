import { Button } from '@mui/material';
import { useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { keep, putPart, queries, useTerms } from '../../api/job';
import { Wrong } from '../../parts/layout';

/** Adds a circuit with every length assumed, to be walked and measured. */
export function AddCircuit({ job, onAdded }: { job: Of<'JobView'>; onAdded?: (id: string) => void }) {
  const [wrong, setWrong] = useState('');
  const circuits = job.view.job?.circuits ?? [];
  const terms = useTerms().data;
  const add = async (use: 'ev' | 'fixed') => {
    const fresh = terms?.fresh.find((c) => c.use === use);
    if (!fresh) return;
    let n = circuits.length + 1;
    while (circuits.some((c) => c.id === `c${n}`)) n++;
    const id = `c${n}`;
    try {
      keep(queries, await putPart(job.id, `circuits/${id}`, 0, { ...fresh, id }, newKey()));
      onAdded?.(id);
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <div className="no-print" style={{ display: 'flex', gap: 8, flexWrap: 'wrap', margin: '8px 0' }}>
      <Button variant={circuits.length ? 'outlined' : 'contained'} disabled={job.view.frozen || !terms} onClick={() => void add('ev')}>
        Add a charge point circuit
      </Button>
      <Button disabled={job.view.frozen || !terms} onClick={() => void add('fixed')}>
        Add another circuit
      </Button>
      {wrong && <Wrong>{wrong}</Wrong>}
    </div>
  );
}
