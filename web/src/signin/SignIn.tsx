import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import { Button, Dialog, TextField } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { api, ask } from '../api/client';
import { Form, P, Quiet, Wrong } from '../parts/layout';
import { Card, Mark } from './Card';

const Demo = styled('h2')({ fontSize: '1em', margin: '20px 0 6px', borderTop: '1px solid var(--rule2)', paddingTop: 12 });
const People = styled('div')({ display: 'grid', gap: 6, '& button': { justifyContent: 'space-between' } });

interface Props {
  onDone: () => void;
  trouble?: string;
  over?: boolean; // over the page that was open when the session ended
}

/** Signing in. With demo data it also offers the demo company's people. */
export function SignIn({ onDone, trouble, over }: Props) {
  const demo = useQuery({ queryKey: ['demo'], queryFn: () => ask(api.GET('/api/demo')), retry: false });
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [wrong, setWrong] = useState('');
  const enter = async (call: Promise<unknown>) => {
    setWrong('');
    try {
      await call;
      onDone();
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  const submit = (e: FormEvent) => {
    e.preventDefault();
    void enter(ask(api.POST('/api/session', { body: { email, password } })));
  };
  const form = (
    <Card data-over={over || undefined}>
      <Mark>{say('Arvelt')}</Mark>
      <P above="none">
        <Quiet>{say('From the survey to the signed handover of an electrical job.')}</Quiet>
      </P>
      {(wrong || trouble) && <Wrong>{wrong || trouble}</Wrong>}
      <Form onSubmit={submit}>
        <TextField
          label={say('Email')}
          type="email"
          required
          value={email}
          onChange={(e) => setEmail(e.target.value)}
          autoComplete="username"
        />
        <TextField
          label={say('Password')}
          type="password"
          required
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          autoComplete="current-password"
        />
        <Button type="submit" variant="contained">
          {say('Sign in')}
        </Button>
      </Form>
      {(demo.data?.length ?? 0) > 0 && (
        <section aria-labelledby="demo-people">
          <Demo id="demo-people">{say('Demo company: go in as')}</Demo>
          <People>
            {demo.data?.map((p) => (
              <Button key={p.id} onClick={() => void enter(ask(api.POST('/api/demo', { body: { personId: p.id } })))}>
                <span>{p.name}</span>
                <Quiet>{p.role}</Quiet>
              </Button>
            ))}
          </People>
        </section>
      )}
    </Card>
  );
  return over ? (
    <Dialog open aria-label={say('Sign in again')}>
      {form}
    </Dialog>
  ) : (
    form
  );
}
