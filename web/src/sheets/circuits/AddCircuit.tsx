import { say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { Row, Wrong } from '../../parts/layout';
import { addCircuit } from './add';

/** Adds a circuit of a template with every length assumed, to be walked and measured. */
export function AddCircuit({ job, onAdded }: { job: Of<'JobView'>; onAdded?: (id: string) => void }) {
  const [wrong, setWrong] = useState('');
  const circuits = job.view.job?.circuits ?? [];
  const terms = useTerms().data;
  const ev = job.view.job?.kind === 'ev-charger' ? terms?.defaults.find((c) => c.use === 'ev')?.name : undefined;
  const [picked, setPicked] = useState('');
  const template = picked || ev || terms?.defaults[0]?.name || '';
  if (terms && terms.defaults.length === 0)
    return (
      <p>{say('Circuits of this practice cannot be designed yet: survey, supply arrangement, isolation, outdoor works and outage can.')}</p>
    );
  const add = async () => {
    const fresh = terms?.defaults.find((c) => c.name === template);
    if (!fresh) return;
    setWrong('');
    try {
      const id = await addCircuit(job, { ...fresh, state: job.view.about.circuit }); // also where nobody waits for it
      onAdded?.(id);
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <Row className="no-print" around="s">
      <TextField
        select
        label={say('Circuit to add')}
        value={template}
        disabled={job.view.frozen || !terms}
        onChange={(e) => setPicked(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            void add();
          }
        }}
        slotProps={{ select: { native: true }, htmlInput: { name: 'template' } }}
        fullWidth={false}
        sx={{ width: 300, maxWidth: '100%' }}
      >
        {terms?.defaults.map((c) => (
          <option key={c.name} value={c.name}>
            {c.name}
          </option>
        ))}
      </TextField>
      <Button variant={circuits.length ? 'outlined' : 'contained'} disabled={job.view.frozen || !terms} onClick={() => void add()}>
        {say('Add circuit')}
      </Button>
      {wrong && <Wrong>{wrong}</Wrong>}
    </Row>
  );
}
