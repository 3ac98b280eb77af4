import { Button, TextField } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask } from '../api/client';
import { Form, P, Quiet, Wrong } from '../parts/layout';
import { say } from '../words/words';
import { Card, Mark } from './Card';

/** Where a person sets their password by the link that they were given. The link stands behind the sign, which is sent to no server. */
export function Welcome({ onDone }: { onDone: () => void }) {
  const link = window.location.hash.slice(1);
  const who = useQuery({
    queryKey: ['welcome'],
    queryFn: () => ask(api.POST('/api/welcome', { body: { link } })),
    retry: false,
    gcTime: 0,
  });
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState('');
  const send = async (e: FormEvent) => {
    e.preventDefault();
    try {
      await ask(api.POST('/api/welcome', { body: { link, password } }));
      window.history.replaceState(null, '', '/');
      onDone();
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <Card>
      <Mark>{say('Arvelt')}</Mark>
      {who.isPending && <p>{say('Looking …')}</p>}
      {who.error && <Wrong>{who.error.message}</Wrong>}
      {who.data && (
        <Form onSubmit={(e) => void send(e)}>
          <P above="none">
            {say('Welcome, {{name}}. Choose the password that you sign in with.', { name: who.data.name })}
            <Quiet block>{who.data.email}</Quiet>
          </P>
          {wrong && <Wrong>{wrong}</Wrong>}
          <input type="hidden" autoComplete="username" value={who.data.email} readOnly />
          <TextField
            type="password"
            required
            label={say('Password')}
            helperText={say('At least 12 characters: several words that do not belong together are good.')}
            value={password}
            onChange={(e) => setPassword(e.target.value)}
            autoComplete="new-password"
            slotProps={{ htmlInput: { name: 'password' } }}
          />
          <Button type="submit" variant="contained">
            {say('Set the password and go in')}
          </Button>
        </Form>
      )}
    </Card>
  );
}
