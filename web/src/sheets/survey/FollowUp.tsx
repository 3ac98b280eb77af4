import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Of } from '../../api/client';
import { useDesk } from '../../api/job';
import { useRecord } from '../../api/records';
import { Boxed, Caution, P, Quiet, Row, Wrong } from '../../parts/layout';
import { LetterFacts } from '../../parts/LetterFacts';
import { msg, say } from '../../words/words';
import { Witnessed, unwitnessed, witnessed } from './Witnessed';

type StepID = 'told' | 'notice' | 'reported' | 'made-safe' | 'mended';

interface Step {
  id: StepID;
  name: string;
  label: string; // of what is noted
  who?: string; // of whom, where somebody is named
  needsNote: boolean;
  qualified: boolean; // for whoever may clear what holds the work
}

const steps: Step[] = [
  { id: 'told', name: msg('Told'), label: msg('How and what was said'), who: msg('Who was told'), needsNote: true, qualified: false },
  {
    id: 'notice',
    name: msg('Notice handed over'),
    label: msg('What the notice says, where more than the finding'),
    who: msg('To whom'),
    needsNote: false,
    qualified: false,
  },
  {
    id: 'reported',
    name: msg('Reported by telephone'),
    label: msg('What was said'),
    who: msg('Who answered at the operator'),
    needsNote: false,
    qualified: false,
  },
  {
    id: 'made-safe',
    name: msg('Made safe'),
    label: msg('What was done so that nobody is at risk'),
    who: msg('Who agreed to it'),
    needsNote: true,
    qualified: true,
  },
  { id: 'mended', name: msg('Rectified'), label: msg('What was done, and how it was proved'), needsNote: true, qualified: true },
];

const asked = (f: Of<'Finding'>, s: Step) => {
  if (f.mended) return false;
  if (s.id === 'reported') return f.operator;
  if (s.id === 'mended') return true;
  return f.danger; // by its grade: what the evidence does not bear yet holds the job all the same
};

/** What was done about a finding: who was told, notice, report, made safe, rectified. A danger holds the job until it is. */
export function FollowUp({ job, f }: { job: Of<'JobView'>; f: Of<'Finding'> }) {
  const [step, setStep] = useState<Step>();
  const qualified = job.view.holds.includes('release');
  const offered = steps.filter((s) => asked(f, s) && (qualified || !s.qualified));
  return (
    <>
      {f.operator && !f.reported && !f.mended && <ReportDraft job={job} />}
      <Row className="no-print" above="s">
        {offered.map((s) => (
          <Button
            key={s.id}
            disabled={job.view.frozen}
            aria-pressed={step === s}
            onClick={() => setStep(step === s ? undefined : s)}
            data-follow={s.id}
          >
            {say(s.name)}
          </Button>
        ))}
        {(f.danger || f.operator) && (
          <Button component="a" href={`/api/jobs/${job.id}/findings/${f.id}/notice.pdf`} target="_blank" data-notice-paper>
            {say('Notice as a PDF')}
          </Button>
        )}
      </Row>
      {step && <StepForm key={step.id} job={job} f={f} step={step} onDone={() => setStep(undefined)} />}
    </>
  );
}

/** What the operator is told, drafted from the finding: read out on the telephone, or sent from the Supply sheet. */
function ReportDraft({ job }: { job: Of<'JobView'> }) {
  const letter = useDesk(job.id).data?.letters.find((l) => l.kind === 'damage');
  if (!letter) return null;
  return (
    <Boxed data-report-draft tone="copper">
      <Caution>{say('Do not open or touch it, and keep people away. It is reported to the operator today.')}</Caution>
      <LetterFacts letter={letter} label={say('What the operator is told')} />
      {letter.missing.length > 0 && <Quiet block>{say('Still needed: {{missing}}', { missing: letter.missing.join('; ') })}</Quiet>}
      <P around="xs">
        {say('Read it out and note the call here, or send it:')}{' '}
        <Link to={`/jobs/${job.id}/supply?leaf=desk`}>{say('Operator’s desk')}</Link>
      </P>
    </Boxed>
  );
}

function StepForm({ job, f, step, onDone }: { job: Of<'JobView'>; f: Of<'Finding'>; step: Step; onDone: () => void }) {
  const record = useRecord(job.id);
  const [note, setNote] = useState('');
  const [person, setPerson] = useState('');
  const [called, setCalled] = useState('');
  const [reference, setReference] = useState('');
  const [seal, setSeal] = useState(unwitnessed);
  const complete =
    (!step.needsNote || note.trim()) &&
    (!step.who || person.trim()) &&
    (step.id !== 'reported' || called) &&
    (step.id !== 'notice' || witnessed(seal));
  return (
    <>
      <Row above="s" align="end">
        {step.who && (
          <TextField
            sx={{ flex: '1 1 160px' }}
            label={say(step.who)}
            value={person}
            onChange={(e) => setPerson(e.target.value)}
            slotProps={{ htmlInput: { name: step.id === 'told' ? 'told' : 'followPerson' } }}
          />
        )}
        {step.id === 'reported' && (
          <>
            <TextField
              label={say('When')}
              type="datetime-local"
              value={called}
              onChange={(e) => setCalled(e.target.value)}
              slotProps={{ inputLabel: { shrink: true }, htmlInput: { name: 'called' } }}
            />
            <TextField
              label={say('Reference')}
              value={reference}
              onChange={(e) => setReference(e.target.value)}
              slotProps={{ htmlInput: { name: 'reference' } }}
            />
          </>
        )}
        <TextField
          sx={{ flex: '2 1 200px' }}
          label={say(step.label)}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { name: 'followNote' } }}
        />
        {step.id === 'notice' && <Witnessed by={person} value={seal} onChange={setSeal} />}
        <Button
          variant="contained"
          disabled={!complete || record.isPending}
          onClick={() =>
            record.mutate(
              {
                kind: 'finding-step',
                subject: f.id,
                path: step.id,
                person,
                note,
                ...(step.id === 'reported' && { called, reference }),
                ...(step.id === 'notice' && seal),
              },
              { onSuccess: onDone },
            )
          }
        >
          {say('Record')}
        </Button>
      </Row>
      {step.id === 'notice' && (
        <Quiet block>
          {say(
            'The finding with its risk goes to the person in writing; a copy is in the handover pack. The work may be declined, the notice never.',
          )}
        </Quiet>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </>
  );
}
