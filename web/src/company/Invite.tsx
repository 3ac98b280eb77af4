import { Button, TextField } from '@mui/material';
import { useState, type FormEvent } from 'react';
import type { Of } from '../api/client';
import { useInvite } from '../api/people';
import { Boxed, Fields, Quiet, Row, SubHead, Wrong } from '../parts/layout';
import { moment, say } from '../words/words';
import { RoleChoice } from './RoleChoice';

/** A link by which a person sets their password: it is shown once, to be handed on. */
export function PasswordLink({ made, name }: { made: Of<'Invitation'>; name: string }) {
  const link = window.location.origin + made.link;
  return (
    <Boxed role="status" data-link={made.link}>
      {say('Give {{name}} this link. It is shown once, good for one use and until {{until}}:', { name, until: moment(made.until) })}
      <Row above="s">
        <code>{link}</code>
        <Button size="small" onClick={() => void navigator.clipboard.writeText(link)}>
          {say('Copy it')}
        </Button>
      </Row>
    </Boxed>
  );
}

const nobody: Of<'NewColleague'> = { name: '', email: '', role: 'electrician' };

/** Adds a person to the company. */
export function Invite() {
  const invite = useInvite();
  const [who, setWho] = useState(nobody);
  const [made, setMade] = useState<{ link: Of<'Invitation'>; name: string }>();
  const send = (e: FormEvent) => {
    e.preventDefault();
    invite.mutate(who, {
      onSuccess: (link) => {
        setMade({ link, name: who.name });
        setWho(nobody);
      },
    });
  };
  const box = (id: 'name' | 'email', label: string) => (
    <TextField
      label={label}
      required
      value={who[id]}
      onChange={(e) => setWho({ ...who, [id]: e.target.value })}
      slotProps={{ htmlInput: { name: `new-${id}`, autoComplete: 'off' } }}
    />
  );
  return (
    <form onSubmit={send} aria-label={say('Add a person')}>
      <SubHead>{say('Add a person')}</SubHead>
      <Fields least={170}>
        {box('name', say('Name'))}
        {box('email', say('Email'))}
        <RoleChoice value={who.role} onValue={(role) => setWho({ ...who, role })} name="new-role" />
        <Button type="submit" variant="contained" disabled={invite.isPending}>
          {say('Add a person')}
        </Button>
      </Fields>
      <Quiet>{say('They come in once they have set a password, and do what they are authorised to do once you have said so.')}</Quiet>
      {invite.error && <Wrong>{invite.error.message}</Wrong>}
      {made && <PasswordLink made={made.link} name={made.name} />}
    </form>
  );
}
