import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCompany } from '../../api/job';
import { useKept, useRecord, type Kept } from '../../api/records';
import { shown } from '../../parts/KeptRecords';
import { figure } from '../../parts/figure';
import { Heading, NotYet, Quiet, Section, Wrong } from '../../parts/layout';
import { Mark, verdictWord } from '../../parts/Mark';
import { SiteHazards } from '../../parts/SiteHazards';
import { sentLater } from '../../parts/sentLater';
import { SheetHead } from '../../parts/SheetHead';
import { IsolationPanel } from '../fix/IsolationPanel';
import type { SheetProps } from '../props';
import { Energise } from './Energise';
import { Entry, partlyRead } from './Entry';
import { Parted } from './Parted';
import { TestGroups } from './TestGroups';

const idOf = (r: Of<'TestRow'>) => `${r.circuit}/${r.id}`;

const Split = styled('div')({
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) 400px',
  gap: 24,
  alignItems: 'start',
  '& .entry': { position: 'sticky', top: 66, order: 2 },
  '@media (max-width:1000px)': { gridTemplateColumns: 'minmax(0, 1fr)', '& .entry': { position: 'static', order: 0 } },
});

const Last = styled('p')({ margin: '0 0 8px', display: 'flex', gap: 8 });
const Differs = styled('section')({ border: '2px solid var(--ink)', padding: 12, marginBottom: 10 });
const Line = styled('button')({
  '& b': { fontWeight: 600 },
  display: 'grid',
  gridTemplateColumns: '18px minmax(0, 1fr) auto',
  gap: '0 10px',
  width: '100%',
  minHeight: 44,
  padding: '5px 6px',
  font: 'inherit',
  color: 'var(--ink)',
  textAlign: 'left',
  background: 'transparent',
  border: 0,
  borderBottom: '1px solid var(--rule)',
  borderLeft: '4px solid transparent',
  cursor: 'pointer',
  alignItems: 'center',
  '&[aria-current=true]': { background: 'var(--wash)', borderLeftColor: 'var(--copper)' },
  '& .more': { gridColumn: '2 / -1', color: 'var(--ink2)', fontSize: '.88em' },
});

function readingText(r: Of<'Record'>, unit: string): string {
  if (r.answer) return r.answer.replaceAll('_', ' ');
  if (r.overRange) return say('over range');
  if (r.passed !== null && r.passed !== undefined) return r.passed ? 'yes' : 'no';
  if (r.value !== null && r.value !== undefined) return figure(r.value, unit);
  return say('could not test');
}

/** The test sheet: dead tests, permission, live tests, one reading at a time. At the board with a tester. */
export function TestSheet({ job, j }: SheetProps) {
  const { rows, energised, isolation } = job.view.tests;
  const [picked, setPicked] = useState<string>();
  const [last, setLast] = useState<string>();
  useCompany(); // its instruments are at hand before the first entry, also where the connection is gone by then
  const { kept } = useKept(job.id);
  const waiting = (r: Of<'TestRow'>) =>
    kept
      .filter((k) => !k.refused && k.record.kind === 'reading' && k.record.subject === r.id && (k.record.circuit ?? '') === r.circuit)
      .at(-1);
  const next = rows.find((r) => (!r.reading || partlyRead(r)) && !waiting(r) && (!r.closed || (kept.length > 0 && !r.live)));
  const current = rows.find((r) => idOf(r) === picked) ?? next;
  const done = rows.filter((r) => r.reading).length;
  const failed = rows.filter((r) => r.verdict === 'fail').length;
  const dead = rows.filter((r) => !r.live);
  const live = rows.filter((r) => r.live);
  const lastRow = rows.find((r) => idOf(r) === last);
  const lines = (list: Of<'TestRow'>[]) =>
    list.map((r) => (
      <Line key={idOf(r)} type="button" data-test={idOf(r)} aria-current={current === r} onClick={() => setPicked(idOf(r))}>
        <Mark verdict={r.verdict} />
        <span>
          {r.title}
          {r.circuit && j.circuits.length > 1 && <Quiet> · {j.circuits.find((c) => c.id === r.circuit)?.name}</Quiet>}
        </span>
        <b>{r.reading ? readingText(r.reading, r.unit) : ''}</b>
        <KeptReading kept={waiting(r)} />
        {r.reading && (
          <span className="more">
            {r.summary} {r.expected !== null && say('Model: {{expected}}. ', { expected: figure(r.expected, r.unit) })}
            {r.reading.instrument && `${r.reading.instrument} · `}
            {r.reading.by}, {moment(r.reading.at)}
            {sentLater(r.reading)}
            {r.reading.place && ` · ${r.reading.place}`}
            {r.points.filter((p) => p.reading).length > 1 && (
              <span data-points={r.points.filter((p) => p.reading).length}>
                {' · '}
                {r.points.flatMap((p) => (p.reading ? [`${p.name}: ${readingText(p.reading, r.unit)}`] : [])).join(', ')}
              </span>
            )}
            {r.reading.testV ? say(' · at {{testV}} V', { testV: r.reading.testV }) : ''}
            {(r.points.length > 0 ? r.beside.filter((e) => !e.box) : r.beside).map((e) =>
              say(' · beside it: {{e}}{{x}}, {{by}}', { e: readingText(e, r.unit), x: e.place ? ` (${e.place})` : '', by: e.by }),
            )}
            {r.earlier.map((e) => say(' · superseded: {{e}}, {{by}}', { e: readingText(e, r.unit), by: e.by }))}
          </span>
        )}
      </Line>
    ));
  return (
    <>
      <SheetHead
        title={say('Test')}
        job={job.id}
        summary={
          rows.length
            ? say('{{done}} of {{rows}} recorded{{x}}.', {
                done,
                rows: rows.length,
                x: failed ? say(', {{failed}} failed', { failed }) : '',
              })
            : say('No tests: there is no circuit yet.')
        }
        tables={[['tests', say('Tests')]]}
      />
      <SiteHazards j={j} />
      <Split>
        <div className="entry">
          {lastRow?.reading && (
            <Last data-last={lastRow.verdict} role="status">
              <Mark verdict={lastRow.verdict} size={18} />
              <span>
                <b>
                  {lastRow.title}: {readingText(lastRow.reading, lastRow.unit)}, {verdictWord(lastRow.verdict)}
                </b>
                . {lastRow.summary}{' '}
                {lastRow.expected !== null && <>{say('Model: {{expected}}.', { expected: figure(lastRow.expected, lastRow.unit) })}</>}
              </span>
            </Last>
          )}
          {lastRow?.explain && <Explain key={idOf(lastRow)} job={job} row={lastRow} />}
          {current?.explain && current !== lastRow && <Explain key={idOf(current)} job={job} row={current} />}
          {current && (
            <Entry
              key={`${idOf(current)} ${current.points.filter((p) => p.reading).length}`}
              job={job}
              row={current}
              circuit={j.circuits.find((c) => c.id === current.circuit)?.name}
              keeps={kept.length > 0 && !current.live}
              onRecorded={() => {
                setLast(idOf(current));
                setPicked(undefined);
              }}
            />
          )}
          {!current && rows.length > 0 && (
            <p>
              {rows.every((r) => r.reading)
                ? say('Every test is recorded. Pick one to correct it.')
                : energised
                  ? say('Nothing is open.')
                  : isolation
                    ? say('Every dead test is recorded: decide on energising.')
                    : say('Nothing is open: start with the isolation.')}
            </p>
          )}
        </div>
        <div>
          <IsolationPanel job={job} />
          <Section>
            <Heading>{say('Dead tests')}</Heading>
            <TestGroups rows={dead} circuits={j.circuits} current={current} lines={lines} />
          </Section>
          <Parted job={job} />
          <Energise job={job} />
          <Section>
            <Heading>{say('Live tests')}</Heading>
            <TestGroups rows={live} circuits={j.circuits} current={current} lines={lines} />
          </Section>
        </div>
      </Split>
      <NotYet>{say('readings taken over from an instrument. Each reading here is typed by a person.')}</NotYet>
    </>
  );
}

/** A reading that waits for a connection: it is on record here, and nobody has judged it. */
function KeptReading({ kept }: { kept?: Kept }) {
  if (!kept) return null;
  return (
    <span className="more" data-kept-reading>
      {say('{{reading}}, {{at}}: waits for a connection, recorded, not judged yet.', {
        reading: shown(kept.record),
        at: kept.record.sent ? moment(kept.record.sent.occurredAt) : '',
      })}
    </span>
  );
}

/** Why a reading is not what the model expects: it does not count before somebody has said it. */
function Explain({ job, row }: { job: Of<'JobView'>; row: Of<'TestRow'> }) {
  const record = useRecord(job.id);
  const [why, setWhy] = useState('');
  const may = job.view.may.includes('remark');
  return (
    <Differs aria-label={say('Why it differs')}>
      <TextField
        fullWidth
        label={say('Why {{title}} differs', { title: row.title })}
        value={why}
        disabled={!may}
        onChange={(e) => setWhy(e.target.value)}
        helperText={
          may
            ? say('A parallel path found, another point, a longer route: what was looked at.')
            : say('Whoever is authorised to clear what holds the work says why.')
        }
        slotProps={{ htmlInput: { name: 'explain' } }}
      />
      <Button
        variant="contained"
        sx={{ mt: 1 }}
        disabled={!may || !why.trim() || record.isPending || job.view.frozen}
        onClick={() => record.mutate({ kind: 'remark', subject: row.reading?.id ?? '', note: why })}
      >
        {say('Save the reason')}
      </Button>
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Differs>
  );
}
