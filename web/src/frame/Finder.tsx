import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import { Dialog, InputBase } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Of } from '../api/client';
import { useJobs, usePaused } from '../api/job';
import { Quiet } from '../parts/layout';
import { sheets } from './sheets';

const Hits = styled('div')({
  padding: '6px 0',
  minHeight: 60,
  '& [role=option]': { padding: '6px 16px', cursor: 'pointer', borderLeft: '4px solid transparent' },
  '& [aria-selected=true]': { background: 'var(--wash)', borderLeftColor: 'var(--copper)' },
});
const NoHit = styled('p')({ padding: '0 16px' });

export interface Action {
  name: string;
  hint?: string;
  run: () => void;
}

interface Props {
  job?: Of<'JobView'>;
  actions: Action[];
  onClose: () => void;
}

/** Ctrl+K: finds jobs, sheets, circuits and actions by a few letters. */
export function Finder({ job, actions, onClose }: Props) {
  const [q, setQ] = useState('');
  const [at, setAt] = useState(0);
  const go = useNavigate();
  const jobs = useJobs(usePaused(q));
  const all: Action[] = [
    ...(job ? sheets.map((s) => ({ name: s.name, hint: 'sheet', run: () => go(`/jobs/${job.id}/${s.id}`) })) : []),
    ...(job?.view.job?.circuits ?? []).map((c) => ({
      name: c.name,
      hint: say('circuit at {{place}}', { place: c.point.place }),
      run: () => go(`/jobs/${job?.id}/circuits?c=${c.id}`),
    })),
    ...actions,
    ...(jobs.rows ?? []).map((j) => ({
      name: `${j.ref} ${j.title}`,
      hint: [j.customer, j.address, j.town, j.stage].filter(Boolean).join(' · '),
      run: () => go(`/jobs/${j.id}/${j.sheet || 'survey'}`),
    })),
  ];
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all.filter((a) => words.every((w) => `${a.name} ${a.hint ?? ''}`.toLowerCase().includes(w))).slice(0, 12);
  const pick = (a?: Action) => {
    if (!a) return;
    onClose();
    a.run();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-label={say('Find')}>
      <InputBase
        autoFocus
        placeholder={say('Job, sheet, circuit or action')}
        value={q}
        sx={{ px: 2, py: 1, borderBottom: '1px solid var(--ink)' }}
        inputProps={{ 'aria-label': say('Find'), role: 'combobox', 'aria-expanded': true, 'aria-controls': 'found' }}
        onChange={(e) => {
          setQ(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt(Math.min(at + 1, found.length - 1));
          else if (e.key === 'ArrowUp') setAt(Math.max(at - 1, 0));
          else if (e.key === 'Enter') pick(found[at]);
          else return;
          e.preventDefault();
        }}
      />
      <Hits role="listbox" id="found" aria-label={say('Found')}>
        {found.map((a, i) => (
          <div key={a.name + i} role="option" aria-selected={i === at} onClick={() => pick(a)}>
            {a.name} <Quiet>{a.hint}</Quiet>
          </div>
        ))}
        {found.length === 0 && <NoHit>{say('Nothing is called that.')}</NoHit>}
      </Hits>
    </Dialog>
  );
}
