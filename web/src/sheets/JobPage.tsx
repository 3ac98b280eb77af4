import { localeNow, moment, say, speak } from '../words/words';
import { Button, Dialog } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useIsFetching } from '@tanstack/react-query';
import { Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { Of } from '../api/client';
import { PracticeContext, useCircuits, useHistory, useJob, useOutdoor, usePracticeTerms, useSupply, useTerms } from '../api/job';
import { useSteps, type Steps } from '../api/undo';
import { Riser } from '../frame/Riser';
import { Shell, useFrame } from '../frame/Shell';
import { ownScript } from '../frame/ownScript';
import { sure } from '../frame/scripts';
import { sheetAt, sheets } from '../frame/sheets';
import { TitleBlock } from '../frame/TitleBlock';
import { UndoBar } from '../frame/UndoBar';
import { WorkingDrawer } from '../frame/WorkingDrawer';

import { KeptRecords } from '../parts/KeptRecords';
import { DangerStrip } from '../parts/DangerStrip';
import { LockStrip } from '../parts/LockStrip';
import { OpenNeutral } from '../parts/OpenNeutral';
import { Caution, DialogTitle, Inside, P, Quiet, SheetTable, Td, Wrong } from '../parts/layout';
import { WordsContext } from '../parts/practice';
import { addCircuit } from './circuits/add';

const Alone = styled('p')({ padding: 20 });
const Tall = styled('main')({ minHeight: '100vh' });

const Body = styled('div')({
  display: 'flex',
  alignItems: 'stretch',
  '& .paper': {
    flex: 1,
    minWidth: 0,
    margin: '14px 16px 16px 4px',
    display: 'flex',
    flexDirection: 'column',
    minHeight: 'calc(100vh - 82px)',
  },
  '& .sheet': { flex: 1, display: 'flex', minWidth: 0, background: 'var(--sheet)', border: '1px solid var(--ink)', borderBottom: 0 },
  '& .sheet > main': { flex: 1, minWidth: 0, padding: '14px 18px 20px' },
  '@media (max-width:700px)': {
    display: 'block',
    '& .paper': { margin: 0, paddingBottom: 64, minHeight: 'auto' },
    '& .sheet': { borderLeft: 0, borderRight: 0 },
    '& .sheet > main': { padding: '10px 12px 20px' },
  },
  '@media print': { '& .paper': { margin: 0 } },
});

const pages = Object.fromEntries(sheets.map((s) => [s.id, ownScript(() => sure(s.script).then((m) => m.default))]));
// That of the sheet that was asked for is on its way since the page began.
pages[window.location.pathname.split('/')[3]]?.ahead();

// The other sheets are fetched once this one is there, for where there is no connection.
const afterSheet = 700;

/** One job, in the words of its practice. */
export function JobPage() {
  const { id = '' } = useParams();
  const practice = useJob(id).data?.view.job?.practice;
  const terms = usePracticeTerms(practice).data;
  if (practice && terms) speak(terms.locale);
  return <OneJob key={localeNow()} />;
}

/** One job: the riser, one sheet, its title block, and the working of a figure beside it. */
function OneJob() {
  const { id = '', sheet = 'survey' } = useParams();
  const job = useJob(id);
  const fetching = useIsFetching() > 0;
  const steps = useSteps(id);
  const { me } = useFrame();
  const go = useNavigate();
  const [drawer, setDrawer] = useState<{ check: Of<'Check'>; take?: (r: Of<'Remedy'>) => void }>();
  const [history, setHistory] = useState(false);
  const [notAdded, setNotAdded] = useState('');
  const { undo: undoNow, redo: redoNow } = steps;
  const onKey = useCallback(
    (k: string, e: KeyboardEvent) => {
      if (k === 'ctrl+z') {
        e.preventDefault();
        undoNow();
      }
      if (k === 'ctrl+y') {
        e.preventDefault();
        redoNow();
      }
      const to = sheetAt(k, sheet);
      if (to) void go(`/jobs/${id}/${to}`);
      if (k === 'h') setHistory(true);
    },
    [go, id, sheet, undoNow, redoNow],
  );
  // A sheet waits for the words of its practice: those of another would flash by.
  const practice = usePracticeTerms(job.data?.view.job?.practice);
  const terms = practice.data;
  const fresh = terms?.defaults;
  const words = useMemo(() => ({ inches: terms?.survey.inches ?? false, sizes: terms?.sizes ?? [] }), [terms]);
  const actions = useMemo(
    () => [
      ...(job.data && !job.data.view.frozen ? (fresh ?? []) : []).map((c) => ({
        name: say('Add: {{name}}', { name: c.name }),
        hint: 'circuit',
        run: () => {
          setNotAdded('');
          addCircuit(job.data as Of<'JobView'>, c).then(
            (added) => go(`/jobs/${id}/circuits?c=${added}`),
            (e: unknown) =>
              setNotAdded(say('{{name}} is not added: {{x}}', { name: c.name, x: e instanceof Error ? e.message : String(e) })),
          );
        },
      })),
      ...(steps.can?.undo
        ? [{ name: say('Undo: {{title}}', { title: steps.can.undo.title }), hint: say('action, Ctrl Z'), run: () => undoNow() }]
        : []),
      ...(steps.can?.redo
        ? [{ name: say('Redo: {{title}}', { title: steps.can.redo.title }), hint: say('action, Ctrl Y'), run: () => redoNow() }]
        : []),
      { name: say('Who changed what'), hint: 'action', run: () => setHistory(true) },
    ],
    [undoNow, redoNow, steps.can, fresh, job.data, go, id],
  );
  const here = !!job.data && !!terms;
  useEffect(() => {
    if (!here) return;
    const idle = window.setTimeout(() => sheets.forEach((s) => pages[s.id].ahead()), afterSheet);
    return () => window.clearTimeout(idle);
  }, [here]);
  const Sheet = (pages[sheet] ?? pages.survey).Page;
  const data = job.data;
  const j = data?.view.job;
  const close = useCallback(() => setDrawer(undefined), []);
  const open = useCallback((check: Of<'Check'>, take?: (r: Of<'Remedy'>) => void) => setDrawer({ check, take }), []);
  return (
    <PracticeContext.Provider value={j?.practice ?? ''}>
      <WordsContext.Provider value={words}>
        <Shell
          job={data}
          tools={<UndoBar steps={steps} />}
          actions={actions}
          onKey={onKey}
          shortcuts={[
            ['1 … 0', say('the first ten sheets, in order')],
            ['[ ]', say('the sheet before, the sheet after')],
            ['w', say('working of the figure in focus')],
            [say('Ctrl Z'), say('undo what you changed last')],
            [say('Ctrl Y'), say('redo what you took back')],
            ['h', say('who changed what')],
            ['Alt ↑ ↓', say('on the Circuits sheet: the circuit changes ways with its neighbour')],
            ['↑ ↓ ← →', say('move in a table; Enter saves and goes down, Esc puts back')],
          ]}
          crumb={
            <>
              <Link to="/jobs">{say('Jobs')}</Link> / <b>{j ? `${j.ref} ${j.title}` : ''}</b>
            </>
          }
        >
          {job.error && (
            <Inside>
              <Wrong>{job.error.message}</Wrong>
              <Link to="/jobs">{say('All jobs')}</Link>
            </Inside>
          )}
          {(job.isPending || (data && !terms && !practice.error)) && <Alone>{say('Opening the job …')}</Alone>}
          {data && j && (terms ?? practice.error) && (
            <Body>
              <Riser job={data} sheet={sheet} />
              <div className="paper">
                <div className="sheet">
                  {/* as high as the window: nothing that is seen jumps when what a sheet waits for comes */}
                  <Tall data-sheet={sheet} aria-busy={fetching}>
                    {data.view.imported && (
                      <Caution>
                        {say(
                          'Imported by {{by}}, {{at}}: the names, times and records up to then are what the file said. Nobody here vouches for them, and no isolation of theirs holds.',
                          { by: data.view.imported.by, at: moment(data.view.imported.at) },
                        )}{' '}
                        {data.view.imported.picturesMissing > 0 &&
                          say('{{n}} of its pictures did not come with the file.', { n: data.view.imported.picturesMissing })}
                      </Caution>
                    )}
                    {data.view.frozen && (
                      <P above="none" below="m">
                        {say('Revision {{revision}} is signed and frozen.', { revision: data.view.revision })}{' '}
                        <Link to={`/jobs/${id}/handover`}>{say('Open a new revision')}</Link> {say('to change anything.')}
                      </P>
                    )}
                    <OpenNeutral job={data} />
                    <DangerStrip job={data} />
                    <LockStrip job={data} />
                    <KeptRecords job={data} />
                    {steps.error && <Wrong>{steps.error.message}</Wrong>}
                    {notAdded && <Wrong>{notAdded}</Wrong>}
                    {data.view.take.troubles.map((t) => (
                      <Wrong key={t}>
                        {t} <Link to={`/jobs/${id}/materials`}>{say('Materials')}</Link>
                      </Wrong>
                    ))}
                    <Suspense fallback={<p>{say('Opening …')}</p>}>
                      <Sheet
                        key={sheet}
                        job={data}
                        j={j}
                        open={open}
                        opened={drawer ? `${drawer.check.circuit ?? ''}/${drawer.check.id}` : undefined}
                      />
                    </Suspense>
                  </Tall>
                  {drawer && <LiveDrawer job={data} drawer={drawer} currency={me.currency} onClose={close} />}
                </div>
                <TitleBlock job={data} sheet={sheet} />
              </div>
            </Body>
          )}
          {history && <History id={id} onClose={() => setHistory(false)} steps={steps} />}
        </Shell>
      </WordsContext.Provider>
    </PracticeContext.Provider>
  );
}

/** Keeps the drawer's check as it is computed now, while the sheet beside it changes. */
function LiveDrawer({
  job,
  drawer,
  currency,
  onClose,
}: {
  job: Of<'JobView'>;
  drawer: { check: Of<'Check'>; take?: (r: Of<'Remedy'>) => void };
  currency: string;
  onClose: () => void;
}) {
  const terms = useTerms().data;
  const report = useCircuits(job.id).data?.report;
  const chain = useSupply(job.id).data?.chain;
  const outdoor = useOutdoor(job.id).data;
  const all = [
    ...(report?.job ?? []),
    ...(report?.circuits ?? []).flatMap((c) => c.checks),
    ...(chain?.checks ?? []),
    ...(outdoor?.electrodes.checks ?? []),
    ...(outdoor?.runs ?? []).flatMap((r) => r.checks),
  ];
  const now = all.find((c) => c.id === drawer.check.id && (c.circuit ?? '') === (drawer.check.circuit ?? '')) ?? drawer.check;
  return (
    <WorkingDrawer
      check={now}
      edition={job.view.job?.edition}
      holds={terms?.held.find((h) => h.rule === now.rule)}
      currency={currency}
      onClose={onClose}
      onTake={job.view.frozen ? undefined : drawer.take}
    />
  );
}

function History({ id, onClose, steps }: { id: string; onClose: () => void; steps: Steps }) {
  const edits = useHistory(id, true);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" aria-labelledby="history">
      <Inside>
        <DialogTitle id="history">{say('Who changed what')}</DialogTitle>
        {edits.isPending && <p>{say('Looking …')}</p>}
        <SheetTable>
          <tbody>
            {edits.data?.map((e, i) => (
              <tr key={i}>
                <Td nowrap>{moment(e.at)}</Td>
                <td>{e.by}</td>
                <td>{e.title || e.what}</td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
        <p>
          <Quiet>{say('Records (readings, isolations, ticks, signatures) are never undone: a new one supersedes.')}</Quiet>
        </p>
        {steps.can?.undo && <Button onClick={steps.undo}>{say('Undo: {{title}}', { title: steps.can.undo.title })}</Button>}{' '}
        {steps.can?.redo && <Button onClick={steps.redo}>{say('Redo: {{title}}', { title: steps.can.redo.title })}</Button>}{' '}
        <Button onClick={onClose}>{say('Close')}</Button>
      </Inside>
    </Dialog>
  );
}
