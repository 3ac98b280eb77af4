import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { useRecord } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { useFrame } from '../../frame/Shell';
import { sheetName } from '../../frame/sheets';
import { TextBox } from '../../parts/fields';
import { moment } from '../../parts/figure';
import { Caution, Fields, Heading, NotYet, Quiet, Row, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead } from '../../parts/SheetHead';
import type { SheetProps } from '../props';

/** What is ready and what is not, the signature, and the pack. For the supervisor, at a table. */
export function HandoverSheet({ job, j }: SheetProps) {
  const { me } = useFrame();
  const record = useRecord(job.id);
  const site = usePart(job, 'site', j.site);
  const [note, setNote] = useState('');
  const { ready, frozen, revision } = job.view;
  const owner = job.view.tasks.filter((t) => t.stage === 'handover');
  const tables = ['loads', 'supply', 'board', 'route', 'checks', 'materials', 'tasks', 'tests', 'readiness', 'records'];
  return (
    <>
      <SheetHead
        title="Handover"
        job={job.id}
        says={
          frozen
            ? `Revision ${revision} is signed.`
            : ready.ready
              ? 'Ready to sign.'
              : `${ready.missing} ${ready.missing === 1 ? 'thing is' : 'things are'} missing.`
        }
        tables={[['readiness', 'Readiness']]}
      />
      <Section>
        <Heading>Readiness, computed from what is recorded</Heading>
        <SheetTable aria-label="Readiness">
          <tbody>
            {ready.items.map((i, n) => (
              <tr key={n}>
                <td style={{ width: 24 }}>
                  <Mark verdict={i.ready ? 'pass' : 'unknown'} label={i.ready ? 'ready' : 'missing'} />
                </td>
                <td>
                  {i.title}
                  {i.says && <>: {i.says}</>}
                </td>
                <td>{!i.ready && <>waits for the {i.who}</>}</td>
                <td>{!i.ready && i.sheet !== 'handover' && <Link to={`/jobs/${job.id}/${i.sheet}`}>{sheetName(i.sheet)}</Link>}</td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
        {ready.assumed.length > 0 && (
          <p>
            <Mark verdict="caution" /> Rests on assumed figures, and the pack says so: {ready.assumed.join('; ')}.
          </p>
        )}
      </Section>
      {owner.length > 0 && (
        <Section>
          <Heading>With the owner</Heading>
          {owner.map((t) => (
            <Row key={t.id}>
              <Mark verdict={t.done ? 'pass' : 'unknown'} label={t.done ? 'done' : 'to do'} />
              <span style={{ flex: 1 }}>
                {t.title}{' '}
                {t.done && t.doneAt && (
                  <Quiet>
                    · {t.doneBy}, {moment(t.doneAt)}
                  </Quiet>
                )}
              </span>
              <Button
                disabled={frozen || (!t.done && !!t.closed)}
                onClick={() => record.mutate({ kind: 'tick', subject: t.id, done: !t.done })}
              >
                {t.done ? 'Undo' : 'Done'}
              </Button>
            </Row>
          ))}
        </Section>
      )}
      <Section>
        <Heading>Signature</Heading>
        {j.seals.map((s) => (
          <p key={s.revision} style={{ margin: '4px 0', overflowWrap: 'anywhere' }}>
            <Mark verdict="pass" /> Revision {s.revision} signed by <b>{s.by}</b> ({s.role}), {moment(s.at)}.{' '}
            <Quiet>Seal SHA-256 {s.hash}</Quiet>{' '}
            {job.signedRevisions.includes(s.revision) && (
              <a href={`/api/jobs/${job.id}/file?revision=${s.revision}`} download>
                signed file
              </a>
            )}{' '}
            {job.signedRevisions.includes(s.revision) && (
              <a href={`/api/jobs/${job.id}/pack?revision=${s.revision}`} download>
                signed pack
              </a>
            )}
          </p>
        ))}
        {record.error && <Wrong>{record.error.message}</Wrong>}
        {frozen ? (
          <Row>
            <Button
              disabled={me.role !== 'supervisor' && me.role !== 'owner'}
              onClick={() => record.mutate({ kind: 'reopen', note: 'opened for changes' })}
            >
              Open a new revision
            </Button>
            <Quiet>Revision {revision} stays as it was signed.</Quiet>
          </Row>
        ) : (
          <>
            <Caution>
              Signing says that you are licensed for it and have checked this work. Arvelt only supports your judgement: local code, the
              operator’s rules and you decide.
            </Caution>
            <Row style={{ alignItems: 'end' }}>
              <TextField
                sx={{ flex: 1, minWidth: 220 }}
                label="Remark with the signature"
                value={note}
                onChange={(e) => setNote(e.target.value)}
              />
              <Button
                variant="contained"
                disabled={me.role !== 'supervisor' || !ready.ready || record.isPending}
                onClick={() => record.mutate({ kind: 'signature', note })}
              >
                Sign revision {revision}
              </Button>
            </Row>
            {me.role !== 'supervisor' && <Quiet>You are signed in as {me.role}: the qualified supervisor signs.</Quiet>}
          </>
        )}
      </Section>
      <Section>
        <Heading aside={<SaveLine part={site} />}>On the first page of the pack</Heading>
        <Fields style={{ gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 280px), 1fr))' }}>
          <TextBox part={site as Part} path="extent" label="Extent: what the work and its papers cover" lines={3} />
          <TextBox part={site as Part} path="limits" label="Limitations: what was not looked into, and why" lines={3} />
          <TextBox part={site as Part} path="others" label="Left to others" lines={3} />
        </Fields>
      </Section>
      <Section className="no-print">
        <Heading>The pack</Heading>
        <Row>
          <Button variant="contained" component="a" href={`/api/jobs/${job.id}/pack`} download>
            Pack as PDF
          </Button>
          <Button component="a" href={`/api/jobs/${job.id}/file`} download>
            Open job file
          </Button>
          {!frozen && <Quiet>Unsigned: the pack says so on every sheet.</Quiet>}
        </Row>
        <p>
          Tables as CSV:{' '}
          {tables.map((t, i) => (
            <span key={t}>
              {i > 0 && ', '}
              <a href={`/api/jobs/${job.id}/tables/${t}`} download>
                {t}
              </a>
            </span>
          ))}
        </p>
      </Section>
      <NotYet>
        photographs in the pack, labels cut to a printer’s tape, reminders sent to the owner. The pack is a working record and no official
        certificate.
      </NotYet>
    </>
  );
}
