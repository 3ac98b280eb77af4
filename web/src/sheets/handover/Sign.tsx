import { Button, TextField } from '@mui/material';
import { useState, type FormEvent } from 'react';
import type { Of } from '../../api/client';
import { useSign } from '../../api/job';
import { Fields, Quiet, Wrong } from '../../parts/layout';
import { say } from '../../words/words';

/** The signature: who signs says their password again, so that nobody signs at a screen that was left open. */
export function Sign({ job }: { job: Of<'JobView'> }) {
  const sign = useSign(job.id);
  const [note, setNote] = useState('');
  const [password, setPassword] = useState('');
  const may = job.view.may.includes('signature');
  const send = (e: FormEvent) => {
    e.preventDefault();
    sign.mutate({ password, note }, { onSettled: () => setPassword('') });
  };
  return (
    <form onSubmit={send}>
      {sign.error && <Wrong>{sign.error.message}</Wrong>}
      <Fields least={220}>
        <TextField label={say('Remark with the signature')} value={note} onChange={(e) => setNote(e.target.value)} />
        <TextField
          type="password"
          label={say('Your password, again')}
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          autoComplete="current-password"
          disabled={!may || !job.view.ready.ready}
          slotProps={{ htmlInput: { name: 'sign-password' } }}
        />
        <Button type="submit" variant="contained" disabled={!may || !job.view.ready.ready || !password || sign.isPending}>
          {say('Sign revision {{revision}}', { revision: job.view.revision })}
        </Button>
      </Fields>
      {!may && <Quiet>{say('You are not authorised to sign this job. The owner grants it, under People.')}</Quiet>}
    </form>
  );
}
