import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../api/client';
import { useTerms } from '../api/job';
import { useGrant, useWithdraw } from '../api/people';
import { Fields, Item, List, Quiet, SubHead, Wrong } from '../parts/layout';
import { say } from '../words/words';

const fresh: Required<Of<'NewAuthorisation'>> = { kind: '', practice: '', jobRef: '', until: '', licence: '' };

/** What somebody is authorised to do, for what and until when; granted and withdrawn here. */
export function Authorisations({ person: p, names }: { person: Of<'Colleague'>; names: Record<string, string> }) {
  const grant = useGrant();
  const withdraw = useWithdraw();
  const practices = useTerms().data?.practices ?? [];
  const [next, setNext] = useState(fresh);
  const wrong = grant.error ?? withdraw.error;
  const called = (id: string) => practices.find((x) => x.id === id)?.name ?? id;
  const text = (id: 'jobRef' | 'licence', label: string) => (
    <TextField
      label={label}
      value={next[id]}
      onChange={(e) => setNext({ ...next, [id]: e.target.value })}
      slotProps={{ htmlInput: { name: `grant-${id}` } }}
    />
  );
  const choice = (id: 'kind' | 'practice', label: string, none: string, options: { id: string; name: string }[]) => (
    <TextField
      select
      label={label}
      value={next[id]}
      onChange={(e) => setNext({ ...next, [id]: e.target.value })}
      slotProps={{ select: { native: true }, htmlInput: { name: `grant-${id}` }, inputLabel: { shrink: true } }}
    >
      <option value="">{none}</option>
      {options.map((o) => (
        <option key={o.id} value={o.id}>
          {o.name}
        </option>
      ))}
    </TextField>
  );
  return (
    <>
      <SubHead>{say('Authorised to, skilled in')}</SubHead>
      {p.authorisations.length === 0 && <Quiet>{say('Nothing: others isolate, test, permit and sign.')}</Quiet>}
      <List>
        {p.authorisations.map((a) => (
          <Item key={a.id} data-authorisation={a.kind}>
            <b>{names[a.kind] ?? a.kind}</b>
            {a.jobRef && say(', job {{ref}} only', { ref: a.jobRef })}
            {a.practice && `, ${called(a.practice)}`}
            {a.licence && say(', licence {{number}}', { number: a.licence })}{' '}
            <Quiet>
              {a.until ? (a.lapsed ? say('lapsed {{day}}', { day: a.until }) : say('until {{day}}', { day: a.until })) : say('no end')},{' '}
              {say('by {{by}}, {{at}}', { by: a.by, at: a.at.slice(0, 10) })}
            </Quiet>{' '}
            <Button size="small" disabled={withdraw.isPending} onClick={() => withdraw.mutate(a.id)}>
              {say('Withdraw')}
            </Button>
          </Item>
        ))}
      </List>
      {wrong && <Wrong>{wrong.message}</Wrong>}
      <Fields least={170}>
        {choice(
          'kind',
          say('Authorise to, or skill'),
          say('choose'),
          p.mayHold.map((id) => ({ id, name: names[id] ?? id })),
        )}
        {choice('practice', say('Practice'), say('every one'), practices)}
        {text('jobRef', say('Job, empty for all'))}
        <TextField
          type="date"
          label={say('Last day, empty for no end')}
          value={next.until}
          onChange={(e) => setNext({ ...next, until: e.target.value })}
          slotProps={{ htmlInput: { name: 'grant-until' }, inputLabel: { shrink: true } }}
        />
        {text('licence', say('Licence seen'))}
        <Button
          variant="contained"
          disabled={!next.kind || grant.isPending}
          onClick={() => grant.mutate({ id: p.id, body: next }, { onSuccess: () => setNext(fresh) })}
        >
          {say('Authorise')}
        </Button>
      </Fields>
    </>
  );
}
