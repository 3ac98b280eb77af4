import { Button, TextField } from '@mui/material';
import { useState, type FormEvent } from 'react';
import { useChangePassword } from '../api/people';
import { useFrame } from '../frame/Shell';
import { Fields, Heading, P, Quiet, Section, Wrong } from '../parts/layout';
import { say } from '../words/words';
import { MyCalendar } from './MyCalendar';
import { Sessions } from './Sessions';

/** One's own account: password and sessions. */
export function Account() {
  const { me } = useFrame();
  const change = useChangePassword();
  const [text, setText] = useState({ current: '', password: '' });
  const send = (e: FormEvent) => {
    e.preventDefault();
    change.mutate(text, { onSuccess: () => setText({ current: '', password: '' }) });
  };
  const box = (id: 'current' | 'password', label: string, fill: string) => (
    <TextField
      type="password"
      required
      label={label}
      value={text[id]}
      onChange={(e) => setText({ ...text, [id]: e.target.value })}
      autoComplete={fill}
      slotProps={{ htmlInput: { name: id } }}
    />
  );
  return (
    <Section id="account" aria-label={say('My account')}>
      <Heading>{say('My account')}</Heading>
      <P around="xs">
        {me.name} <Quiet>{me.email}</Quiet>
      </P>
      <form onSubmit={send}>
        <Fields least={200}>
          {box('current', say('Password now'), 'current-password')}
          {box('password', say('New password, at least 12 characters'), 'new-password')}
          <Button type="submit" disabled={change.isPending}>
            {say('Change the password')}
          </Button>
        </Fields>
      </form>
      {change.error && <Wrong>{change.error.message}</Wrong>}
      {change.isSuccess && <p role="status">{say('Changed. Your other sessions have ended.')}</p>}
      <MyCalendar />
      <Sessions id={me.id} name={me.name} />
    </Section>
  );
}
