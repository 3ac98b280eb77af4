import { say } from '../words/words';
import { Button, Dialog, TextField } from '@mui/material';
import { useRef, useState, type FormEvent } from 'react';
import { newKey, Trouble, type Of } from '../api/client';
import { startJob, useNextJob, usePracticeTerms } from '../api/job';
import { DialogTitle, Fields, Form, P, Row, Wrong } from '../parts/layout';
import { kindNames } from './kinds';

/** Starting a job: what it is, for whom and where. */
export function NewJob({ onClose, onDone }: { onClose: () => void; onDone: (a: Of<'JobView'>) => void }) {
  // What nobody has chosen or typed is as the company has it.
  const [typed, setJob] = useState<Partial<Of<'NewJob'>>>({});
  const next = useNextJob().data;
  const kind = typed.kind ?? (next?.kind || 'rewire');
  const address = typed.address ?? '';
  const job: Of<'NewJob'> = {
    customer: '',
    town: '',
    ...typed,
    address,
    kind,
    ref: typed.ref ?? next?.ref ?? '',
    title: typed.title ?? [say(kindNames[kind as Of<'Kind'>]), address].filter(Boolean).join(', '),
    practice: typed.practice ?? next?.practice ?? '', // the first that is offered, until another is chosen
  };
  const terms = usePracticeTerms(job.practice ?? '').data;
  const [trouble, setTrouble] = useState<Trouble>();
  const [busy, setBusy] = useState(false);
  // What is proposed later does not change a field that somebody is in.
  const [within, setWithin] = useState<{ name: string; value: string }>();
  const key = useRef(newKey());
  const errorOf = (...names: string[]) => trouble?.problem.fields?.find((f) => names.includes(f.field));
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setBusy(true);
    try {
      onDone(await startJob({ ...job, practice: job.practice || terms?.id }, key.current));
    } catch (err) {
      if (err instanceof Trouble) setTrouble(err);
      key.current = newKey();
      setBusy(false);
    }
  };
  const box = (name: keyof Of<'NewJob'>, label: string, field: string, hint?: string) => {
    const error = errorOf(field);
    return (
      <TextField
        label={label}
        value={typed[name] ?? (within?.name === name ? within.value : job[name])}
        onFocus={(e) => setWithin({ name, value: e.target.value })}
        onBlur={() => setWithin(undefined)}
        onChange={(e) => setJob({ ...typed, [name]: e.target.value })}
        error={!!error}
        helperText={error ? say('Give {{accept}}.', { accept: error.accept }) : hint}
        slotProps={{ htmlInput: { name } }}
      />
    );
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="new-job">
      <Form onSubmit={(e) => void submit(e)} pad="l">
        <DialogTitle id="new-job">{say('Start a job')}</DialogTitle>
        {trouble && !trouble.problem.fields?.length && <Wrong>{trouble.message}</Wrong>}
        <Fields>
          <TextField
            select
            label={say('Kind')}
            value={job.kind}
            onChange={(e) => setJob({ ...typed, kind: e.target.value })}
            slotProps={{ select: { native: true }, htmlInput: { name: 'kind' } }}
          >
            {Object.entries(kindNames).map(([id, name]) => (
              <option key={id} value={id}>
                {say(name)}
              </option>
            ))}
          </TextField>
          <TextField
            select
            label={say('Practice')}
            value={job.practice || (terms?.id ?? '')}
            onChange={(e) => setJob({ ...typed, practice: e.target.value, edition: undefined })}
            slotProps={{ select: { native: true }, htmlInput: { name: 'practice' } }}
          >
            {(terms?.practices ?? []).map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </TextField>
          {(terms?.editions.length ?? 0) > 0 && (
            <TextField
              select
              label={say('Edition')}
              value={job.edition ?? terms?.editions[0]}
              onChange={(e) => setJob({ ...typed, edition: e.target.value })}
              helperText={say('what the local authority has adopted')}
              error={!!errorOf('edition')}
              slotProps={{ select: { native: true }, htmlInput: { name: 'edition' } }}
            >
              {terms?.editions.map((e) => (
                <option key={e} value={e}>
                  {e}
                </option>
              ))}
            </TextField>
          )}
          {box('customer', say('Customer'), 'site.customer')}
          {box('address', say('Address'), 'site.address')}
          {box('town', say('Town'), 'site.town')}
          {box('title', say('Title'), 'title', typed.title === undefined ? say('proposed from kind and address') : undefined)}
          {box('ref', say('Reference'), 'ref', next?.ref ? say('the next by your numbering') : say('your own, once in the company'))}
        </Fields>
        <P around="none" small quiet>
          {terms?.why} {say('The practice stays with the job.')}
          {terms &&
            terms.defaults.length === 0 &&
            say(' Of this practice the survey, the supply arrangement and the outage are there; its circuits cannot be designed yet.')}
        </P>
        <Row>
          <Button type="submit" variant="contained" disabled={busy}>
            {say('Start')}
          </Button>
          <Button onClick={onClose}>{say('Cancel')}</Button>
        </Row>
      </Form>
    </Dialog>
  );
}
