import { styled } from '@mui/material/styles';
import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';

import { Fields, Heading, P, Quiet, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';

const Entry = styled(Fields)({ gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 180px), 1fr))', alignItems: 'end' });

interface Props {
  job: Of<'JobView'>;
  circuit: string;
  rule: Of<'OperatorRule'>;
  check?: Of<'Check'>;
}

/** Whether the network operator is told or asked first, and what was said, recorded by hand. */
export function OperatorRecord({ job, circuit, rule, check }: Props) {
  const record = useRecord(job.id);
  const [path, setPath] = useState(rule.path === 'apply' ? 'applied' : 'notified');
  const [reference, setReference] = useState('');
  const [person, setPerson] = useState('');
  const [called, setCalled] = useState('');
  const said = (job.view.job?.records ?? []).filter((r) => r.kind === 'operator' && (!r.circuit || r.circuit === circuit));
  return (
    <Section>
      <Heading>{say('Network operator')}</Heading>
      <P above="xs" below="s">
        {check && <Mark verdict={check.verdict} />} {check?.summary ?? rule.why}
      </P>
      {said.map((r) => (
        <P key={r.id} around="xs">
          {moment(r.at)} · <b>{r.path}</b>
          {say(', reference {{reference}}{{person}}', { reference: r.reference, person: r.person && `, ${r.person}` })}{' '}
          <Quiet>{say('recorded by {{by}}', { by: r.by })}</Quiet>
        </P>
      ))}
      <Entry className="no-print">
        <TextField
          select
          label={say('What happened')}
          value={path}
          onChange={(e) => setPath(e.target.value)}
          slotProps={{ select: { native: true }, htmlInput: { name: 'operator-path' } }}
        >
          {[
            ['notified', say('we notified')],
            ['applied', say('we applied')],
            ['agreed', say('they agreed')],
            ['refused', say('they refused')],
          ].map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </TextField>
        <TextField
          label={say('Their reference')}
          value={reference}
          onChange={(e) => setReference(e.target.value)}
          slotProps={{ htmlInput: { name: 'operator-reference' } }}
        />
        <TextField
          label={say('Person spoken to')}
          value={person}
          onChange={(e) => setPerson(e.target.value)}
          slotProps={{ htmlInput: { name: 'operator-person' } }}
        />
        <TextField
          label={say('When it was said')}
          type="datetime-local"
          value={called}
          onChange={(e) => setCalled(e.target.value)}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { name: 'operator-called' } }}
        />
        <Button
          variant="contained"
          disabled={record.isPending || job.view.frozen || !person.trim() || !called}
          onClick={() =>
            record.mutate({ kind: 'operator', circuit, path, reference, person, called }, { onSuccess: () => setReference('') })
          }
        >
          {say('Record')}
        </Button>
      </Entry>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Section>
  );
}
