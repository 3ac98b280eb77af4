import { say } from '../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { newKey, type Of } from '../api/client';
import { keep, putPart, queries, readJob, useJobs, usePaused } from '../api/job';
import { Quiet, Row, Section, Wrong } from '../parts/layout';

interface Props {
  calc: Of<'Calculation'>;
  input: Record<string, unknown>;
  jobId: string; // the job that it was opened from, or none
  at: number; // its place among those of that job, -1 for a new one
  note: string;
}

/** Puts a calculation into a job, which keeps its inputs and computes it anew. */
export function KeepInJob({ calc, input, jobId, at, note: was }: Props) {
  const [q, setQ] = useState('');
  const jobs = useJobs(usePaused(q));
  const open = jobs.rows ?? [];
  const [picked, setPicked] = useState(jobId);
  const [note, setNote] = useState(was);
  const [done, setDone] = useState<{ id: string; ref: string }>();
  const [wrong, setWrong] = useState('');
  const put = async () => {
    setWrong('');
    try {
      const job = await readJob(picked);
      if (job.view.job?.practice !== calc.practice)
        throw new Error(say('This job follows another practice: the calculation is not of its rules.'));
      const kept = job.view.job?.bench.kept ?? [];
      const one = { calc: calc.name, note, input };
      const body = { kept: picked === jobId && at >= 0 ? kept.map((k, i) => (i === at ? one : k)) : [...kept, one] };
      keep(queries, await putPart(picked, 'bench', job.versions.bench ?? 0, body, newKey()));
      setDone({ id: picked, ref: open.find((j) => j.id === picked)?.ref ?? say('the job') });
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <Section>
      <Row>
        {(q !== '' || jobs.hasNextPage) && (
          <TextField label={say('Find a job')} value={q} onChange={(e) => setQ(e.target.value)} fullWidth={false} sx={{ width: 200 }} />
        )}
        <TextField
          select
          label={say('Job')}
          value={open.some((j) => j.id === picked) ? picked : ''}
          onChange={(e) => setPicked(e.target.value)}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true }, htmlInput: { name: 'job' } }}
          fullWidth={false}
          sx={{ width: 260, maxWidth: '100%' }}
        >
          <option value="">{say('which job')}</option>
          {open.map((j) => (
            <option key={j.id} value={j.id}>
              {j.ref} {j.title}
            </option>
          ))}
        </TextField>
        <TextField
          label={say('What it is of')}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { name: 'note', maxLength: 400 } }}
          fullWidth={false}
          sx={{ width: 260, maxWidth: '100%' }}
        />
        <Button type="button" disabled={!picked} onClick={() => void put()}>
          {picked === jobId && at >= 0 ? say('Put back into the job') : say('Put this into a job')}
        </Button>
        {done && (
          <span role="status">
            {say('In')} <Link to={`/jobs/${done.id}/circuits`}>{done.ref}</Link>
            {say(', on the Circuits sheet.')}
          </span>
        )}
      </Row>
      {wrong && <Wrong>{wrong}</Wrong>}
      {open.length === 0 && !q && jobs.rows && <Quiet>{say('There is no job yet.')}</Quiet>}
    </Section>
  );
}
