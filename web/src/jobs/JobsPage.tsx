import { styled } from '@mui/material/styles';
import { moment, say } from '../words/words';
import { Button, Dialog, InputBase, TextField } from '@mui/material';
import { useCallback, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { newKey, Trouble, type Of } from '../api/client';
import { importJob, keep, queries, useJobs, usePaused } from '../api/job';
import { LeftLine } from '../company/LeftWrites';
import { Dangers } from '../parts/Dangers';
import { Shell, useFrame } from '../frame/Shell';
import { Aside, Bad, Form, Page, Quiet, Row, Scroll, SheetTable, Td, Title, Wrong } from '../parts/layout';
import { kindNames } from './kinds';
import { NewJob } from './NewJob';
import { HeldBy } from './HeldBy';
import { StageLine } from './StageLine';

const FileLink = styled('a')({ alignSelf: 'center' });
const PageLink = styled(Link)({ alignSelf: 'center' });
const Listed = styled(Scroll)({ background: 'var(--sheet)', border: '1px solid var(--ink)', padding: '4px 12px 8px' });
const Which = styled('td')({ padding: '8px 8px 8px 0' });

/** The company's jobs: where each stands, what holds it and whom it waits for. For the office, and for the van before setting off. */
export function JobsPage() {
  const { me } = useFrame();
  const [q, setQ] = useState('');
  const [starting, setStarting] = useState(false);
  const [wrong, setWrong] = useState('');
  const [taken, setTaken] = useState<{ text: string; as: string; summary: string }>();
  const jobs = useJobs(usePaused(q));
  const rows = jobs.rows;
  const go = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const search = useRef<HTMLInputElement>(null);
  const actions = useMemo(() => [{ name: say('Start a job'), hint: 'action', run: () => setStarting(true) }], []);
  const onKey = useCallback((k: string, e: KeyboardEvent) => {
    if (k === 'n') setStarting(true);
    if (k === '/') {
      e.preventDefault();
      search.current?.focus();
    }
  }, []);
  const bring = async (f: File | undefined) => {
    if (!f) return;
    setWrong('');
    const text = await f.text();
    try {
      open(await importJob(text, '', newKey()));
    } catch (e) {
      if (e instanceof Trouble && e.status === 409) setTaken({ text, as: '', summary: e.message });
      else setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  const bringCopy = (copy: { text: string; as: string }) =>
    importJob(copy.text, copy.as, newKey()).then(open, (e: Error) => setTaken({ ...copy, summary: e.message }));
  const open = (a: Of<'JobView'>) => {
    keep(queries, a);
    void go(`/jobs/${a.id}/survey`);
  };
  return (
    <Shell
      crumb={say('Jobs')}
      actions={actions}
      onKey={onKey}
      shortcuts={[
        ['n', say('start a job')],
        ['/', 'search'],
      ]}
    >
      <Page most={1280}>
        <Row below="m">
          <Title>{say('Jobs')}</Title>
          <InputBase
            inputRef={search}
            value={q}
            onChange={(e) => setQ(e.target.value)}
            placeholder={say('Search reference, customer, address, town, stage')}
            inputProps={{ 'aria-label': say('Search jobs') }}
            sx={{ border: '1px solid var(--rule2)', background: 'var(--sheet)', px: 1.2, width: 400, maxWidth: '100%' }}
          />
          <Aside gap="s">
            <input ref={file} type="file" accept=".json,application/json" hidden onChange={(e) => void bring(e.target.files?.[0])} />
            <Button onClick={() => file.current?.click()}>{say('Import a job file')}</Button>
            <FileLink href="/api/tables/jobs" download>
              {say('Jobs as CSV')}
            </FileLink>
            <PageLink to="/today">{say('Today')}</PageLink>
            <PageLink to="/week">{say('The week')}</PageLink>
            <PageLink to="/company">{say('Prices and hours')}</PageLink>
            <PageLink to="/people">{me.decides ? say('People') : say('My account')}</PageLink>
            <Button variant="contained" disabled={!me.starts} onClick={() => setStarting(true)}>
              {say('Start a job')}
            </Button>
          </Aside>
        </Row>
        <Dangers />
        {me.decides && <LeftLine />}
        {(wrong || jobs.error) && <Wrong>{wrong || jobs.error?.message}</Wrong>}
        {jobs.isPending && <p>{say('Looking …')}</p>}
        {rows?.length === 0 && <p>{q ? say('No job matches “{{q}}”.', { q }) : say('No jobs yet. Start one.')}</p>}
        {!!rows?.length && (
          <Listed>
            <SheetTable aria-label={say('Jobs')} data-cards>
              <thead>
                <tr>
                  <th scope="col">{say('Job')}</th>
                  <th scope="col">{say('Customer')}</th>
                  <th scope="col">{say('Stage')}</th>
                  <th scope="col">{say('Held by')}</th>
                  <th scope="col">{say('Comes after')}</th>
                  <th scope="col">{say('Changed')}</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((j) => (
                  <tr key={j.id}>
                    <Which data-whole>
                      <Link to={`/jobs/${j.id}/${j.sheet || 'handover'}`}>
                        <b>{j.ref}</b> {j.title}
                      </Link>
                      <br />
                      <Quiet>{say(kindNames[j.kind as Of<'Kind'>] ?? j.kind)}</Quiet>
                    </Which>
                    <td data-whole>
                      {j.customer}
                      <br />
                      <Quiet>{[j.address, j.town].filter(Boolean).join(', ')}</Quiet>
                    </td>
                    <td data-whole>
                      <StageLine stage={j.stage} />
                    </td>
                    <td data-whole data-label={say('Held by')}>
                      {j.danger && (
                        <Bad data-danger style={{ display: 'block' }}>
                          {say('Danger now: {{what}}', { what: j.danger })}
                        </Bad>
                      )}
                      {j.locks && (
                        <Bad data-locks style={{ display: 'block' }}>
                          {say('Lock in place: {{locks}}', { locks: j.locks })}
                        </Bad>
                      )}
                      <HeldBy job={j} />
                    </td>
                    <td data-label={say('Comes after')}>{j.who || '–'}</td>
                    <Td data-label={say('Changed')} nowrap>
                      {moment(j.updatedAt)}
                    </Td>
                  </tr>
                ))}
              </tbody>
            </SheetTable>
          </Listed>
        )}
        {!!rows?.length && (
          <Row above="m" aria-live="polite" data-total={jobs.total}>
            <Quiet>
              {jobs.exact
                ? say('{{shown}} of {{total}} jobs', { shown: rows.length, total: jobs.total })
                : say('{{shown}} of more than {{total}} jobs', { shown: rows.length, total: jobs.total })}
            </Quiet>
            {jobs.hasNextPage && (
              <Button disabled={jobs.isFetchingNextPage} onClick={() => void jobs.fetchNextPage()}>
                {jobs.isFetchingNextPage ? say('Looking …') : say('Show more')}
              </Button>
            )}
          </Row>
        )}
      </Page>
      {taken && (
        <Dialog open onClose={() => setTaken(undefined)} fullWidth maxWidth="xs" aria-label={say('Import a copy')}>
          <Form
            pad="l"
            onSubmit={(e) => {
              e.preventDefault();
              void bringCopy(taken);
            }}
          >
            <Wrong>{taken.summary}</Wrong>
            <TextField
              autoFocus
              required
              label={say('Import a copy as')}
              value={taken.as}
              onChange={(e) => setTaken({ ...taken, as: e.target.value })}
              helperText={say('Signatures and seals stay with the original.')}
              slotProps={{ htmlInput: { name: 'as' } }}
            />
            <Row>
              <Button type="submit" variant="contained">
                {say('Import the copy')}
              </Button>
              <Button onClick={() => setTaken(undefined)}>{say('Cancel')}</Button>
            </Row>
          </Form>
        </Dialog>
      )}
      {starting && <NewJob onClose={() => setStarting(false)} onDone={open} />}
    </Shell>
  );
}
