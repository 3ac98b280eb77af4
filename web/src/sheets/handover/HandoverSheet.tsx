import { styled } from '@mui/material/styles';
import { moment, say } from '../../words/words';
import { Button } from '@mui/material';
import { useRecord } from '../../api/records';
import { usePart } from '../../api/part';
import { TextBox } from '../../parts/fields';

import { Caution, Fields, Grow, Heading, NotYet, Quiet, Row, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SheetLink } from '../../parts/SheetLink';
import { TickButton } from '../fix/TickButton';
import { SheetHead } from '../../parts/SheetHead';
import type { SheetProps } from '../props';
import { gathered } from './gathered';
import { LookedAfter } from './LookedAfter';
import { Outcome } from './Outcome';
import { ReadyRow } from './ReadyRow';
import { Sign } from './Sign';

const Sealed = styled('p')({ margin: '4px 0', overflowWrap: 'anywhere' });

/** What is ready and what is not, the signature, and the pack. For the supervisor, at a table. */
export function HandoverSheet({ job, j }: SheetProps) {
  const record = useRecord(job.id);
  const site = usePart(job, 'site', j.site);
  const { ready, frozen, revision } = job.view;
  const owner = job.view.tasks.filter((t) => t.stage === 'handover');
  const tables: [string, string][] = [
    ['loads', say('Loads')],
    ['supply', say('Supply')],
    ['board', say('Board')],
    ['route', say('Routes')],
    ['checks', say('Checks')],
    ['materials', say('Order list')],
    ['tasks', say('Tasks')],
    ['tests', say('Tests')],
    ['readiness', say('Readiness')],
    ['records', say('Records')],
  ];
  return (
    <>
      <SheetHead
        title={say('Handover')}
        job={job.id}
        tables={tables}
        summary={
          frozen
            ? say('Revision {{revision}} is signed.', { revision })
            : ready.ready
              ? say('Ready to sign.')
              : say('{{missing}} {{x}} missing.', { missing: ready.missing, x: ready.missing === 1 ? say('thing is') : say('things are') })
        }
      />
      {job.view.outcome && <Outcome outcome={job.view.outcome} />}
      <Section>
        <Heading>{say('Readiness, computed from what is recorded')}</Heading>
        <SheetTable aria-label={say('Readiness')}>
          <tbody>
            {gathered(ready.items).map((of) => (
              <ReadyRow key={of[0].title + of[0].summary} job={job.id} items={of} />
            ))}
          </tbody>
        </SheetTable>
        {ready.assumed.length > 0 && (
          <p>
            <Mark verdict="caution" />{' '}
            {say('Rests on assumed figures, and the pack says so: {{assumed}}.', { assumed: ready.assumed.join('; ') })}
          </p>
        )}
      </Section>
      {owner.length > 0 && (
        <Section>
          <Heading>{say('Handover steps')}</Heading>
          {owner.map((t) => (
            <Row key={t.id}>
              <Mark verdict={t.done ? 'pass' : 'unknown'} label={t.done ? 'done' : say('to do')} />
              <Grow>
                {t.title}
                {t.who && <Quiet> · {t.who}</Quiet>}{' '}
                {t.done && t.doneAt && (
                  <Quiet>
                    · {t.doneBy}, {moment(t.doneAt)}
                  </Quiet>
                )}
                {!t.done && t.closed && (
                  <Quiet block>
                    {t.closed} {t.closedAt && <SheetLink job={job.id} at={t.closedAt} />}
                  </Quiet>
                )}
              </Grow>
              <TickButton job={job} task={t} />
            </Row>
          ))}
        </Section>
      )}
      <Section>
        <Heading>{say('Signature')}</Heading>
        {j.seals.map((s) => (
          <Sealed key={s.revision}>
            <Mark verdict="pass" /> {say('Revision {{revision}} signed by', { revision: s.revision })} <b>{s.by}</b> ({s.role}),{' '}
            {moment(s.at)}. <Quiet>{say('Seal SHA-256 {{hash}}', { hash: s.hash })}</Quiet>{' '}
            {job.signedRevisions.includes(s.revision) && (
              <a href={`/api/jobs/${job.id}/file?revision=${s.revision}`} download>
                {say('signed file')}
              </a>
            )}{' '}
            {job.signedRevisions.includes(s.revision) && (
              <a href={`/api/jobs/${job.id}/pack?revision=${s.revision}`} download>
                {say('signed pack')}
              </a>
            )}
          </Sealed>
        ))}
        {job.view.sealed && (
          <Sealed data-seal={job.view.sealed.outcome}>
            {say('Check of the seal')}: <b>{job.view.sealed.outcome}</b>. <Quiet>{job.view.sealed.says}</Quiet>
          </Sealed>
        )}
        {record.error && <Wrong>{record.error.message}</Wrong>}
        {frozen ? (
          <Row>
            <Button
              disabled={!job.view.may.includes('reopen')}
              onClick={() => record.mutate({ kind: 'reopen', note: say('opened for changes') })}
            >
              {say('Open a new revision')}
            </Button>
            <Quiet>{say('Revision {{revision}} stays as it was signed.', { revision })}</Quiet>
          </Row>
        ) : (
          <>
            <Caution>
              {say(
                'Signing says that you are licensed for it and have checked this work. Arvelt only supports your ' +
                  'judgement: local code, the operator’s rules and you decide.',
              )}
            </Caution>
            <Sign job={job} />
          </>
        )}
      </Section>
      {j.seals.length > 0 && <LookedAfter job={job} j={j} />}
      <Section>
        <Heading aside={<SaveLine part={site} />}>{say('On the first page of the pack')}</Heading>
        <Fields least={280}>
          <TextBox part={site} path="extent" label={say('Extent: what the work and its papers cover')} lines={3} />
          <TextBox part={site} path="limits" label={say('Limitations: what was not looked into, and why')} lines={3} />
          <TextBox part={site} path="others" label={say('Left to others')} lines={3} />
        </Fields>
      </Section>
      <Section className="no-print">
        <Heading>{say('The pack')}</Heading>
        <Row>
          <Button variant="contained" component="a" href={`/api/jobs/${job.id}/pack`} download>
            {say('Pack as PDF')}
          </Button>
          <Button component="a" href={`/api/jobs/${job.id}/file`} download>
            {say('Open job file')}
          </Button>
          {!frozen && <Quiet>{say('Unsigned: the pack says so on every sheet.')}</Quiet>}
        </Row>
      </Section>
      <NotYet>
        {say(
          'photographs in the pack, labels cut to a printer’s tape, reminders sent to the owner. The pack is a working ' +
            'record and no official certificate.',
        )}
      </NotYet>
    </>
  );
}
