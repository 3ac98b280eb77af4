import { say } from '../../words/words';
import { useState } from 'react';
import { TextField } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import type { Of } from '../../api/client';
import { newKey } from '../../api/client';
import { keep, putPart, useTerms } from '../../api/job';
import { useTrial } from '../../api/trial';
import { Fields, Heading, Quiet, Section, Wrong } from '../../parts/layout';
import { Consequences } from '../circuits/Consequences';

/** The edition of the rules that the job is held to. Another one is tried first: what flips is listed before it is kept. */
export function EditionChoice({ job, edition }: { job: Of<'JobView'>; edition: string }) {
  const editions = useTerms().data?.editions ?? [];
  const trial = useTrial(job, 'rules', { edition }, true);
  const queries = useQueryClient();
  const [wrong, setWrong] = useState('');
  const chosen = trial.part.value.edition;
  const keepIt = async () => {
    try {
      keep(queries, await putPart(job.id, 'rules', job.versions['rules'] ?? 0, trial.part.value, newKey()));
      trial.drop();
      setWrong('');
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <Section>
      <Heading>{say('Edition of the rules')}</Heading>
      <Fields>
        <TextField
          select
          label={say('Edition')}
          value={chosen}
          disabled={job.view.frozen}
          onChange={(e) => (e.target.value === edition ? trial.drop() : trial.part.set('edition', e.target.value))}
          helperText={say('what the local authority has adopted; the date of the permit decides')}
          slotProps={{ select: { native: true }, htmlInput: { name: 'edition' } }}
        >
          {!editions.includes(edition) && <option value={edition}>{edition}</option>}
          {editions.map((e) => (
            <option key={e} value={e}>
              {e}
            </option>
          ))}
        </TextField>
      </Fields>
      {!editions.includes(edition) && (
        <Quiet>{say('This edition is not in the tables: where editions differ, the stricter reading is taken.')}</Quiet>
      )}
      {wrong && <Wrong>{wrong}</Wrong>}
      {trial.changed && <Consequences result={trial.result} error={trial.error} changed onKeep={() => void keepIt()} onDrop={trial.drop} />}
    </Section>
  );
}
