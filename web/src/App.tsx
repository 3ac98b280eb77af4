import { styled } from '@mui/material/styles';
import { localeNow, moment, placeAt, say, speak } from './words/words';
import { CssBaseline, ThemeProvider } from '@mui/material';
import { QueryClientProvider } from '@tanstack/react-query';
import { Suspense, useEffect, useMemo, useRef, useState, type ComponentType } from 'react';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { signedOut } from './api/client';
import { useEvents } from './api/events';
import { queries, takeAlong, useMe } from './api/job';
// What may wait for the server is known on every page, so that it is sent from any of them.
import './api/outbox';
import './api/part';
import './api/pictures';
import { handIn, useSend } from './api/queue';
import './api/records';
import { forgetOldReads } from './api/reading';
import { FrameProvider } from './frame/Shell';
import { Offline } from './frame/Offline';
import { ownScript } from './frame/ownScript';
import { sure } from './frame/scripts';
import { Welcome } from './signin/Welcome';
import { WithPage } from './with/WithPage';
import { SignIn } from './signin/SignIn';
import { modeOf, themeOf, type Mode } from './theme';

const Alone = styled('p')({ padding: 20 });

// Each page is a script of its own, as is each sheet.
const bench = ownScript(() => sure(() => import('./bench/BenchPage')).then((m) => m.BenchPage));
const company = ownScript(() => sure(() => import('./company/CompanyPage')).then((m) => m.CompanyPage));
const people = ownScript(() => sure(() => import('./company/PeoplePage')).then((m) => m.PeoplePage));
const jobs = ownScript(() => sure(() => import('./jobs/JobsPage')).then((m) => m.JobsPage));
const today = ownScript(() => sure(() => import('./today/TodayPage')).then((m) => m.TodayPage));
const week = ownScript(() => sure(() => import('./week/WeekPage')).then((m) => m.WeekPage));
const job = ownScript(() => sure(() => import('./sheets/JobPage')).then((m) => m.JobPage));

// The page that was asked for is fetched while the server is asked who is signed in.
const asked = window.location.pathname;
const first = { '/bench': bench, '/company': company, '/people': people, '/jobs': jobs, '/today': today, '/week': week }[asked];
(first ?? (asked.startsWith('/jobs/') ? job : undefined))?.ahead();

/** What somebody of a role sees first: their day on site, the week in the office. */
const firstPage: Record<string, string> = { electrician: '/today', apprentice: '/today', office: '/week' };

const modeSlot = 'arvelt:theme';

/** A page without a job speaks as the company does. */
function Ours({ page: Page, locale }: { page: ComponentType; locale: string }) {
  speak(locale);
  return <Page key={localeNow()} />;
}

/** Why nobody is signed in any more, once it is known; what waited of a session that somebody else ended is handed in. */
function useSignedOut() {
  const [why, setWhy] = useState('');
  const ended = useRef('');
  useEffect(() => {
    signedOut.tell = (by) => {
      if (!by) {
        setWhy((was) => was || say('The session has expired. What you typed is kept: sign in and go on.'));
        return;
      }
      if (ended.current === by.at) return;
      ended.current = by.at;
      const told = say('{{by}} ended this session, {{at}}.', { by: by.by, at: moment(by.at) });
      setWhy(told);
      void handIn(by.personId).then((n) => {
        if (n === 1) setWhy(`${told} ${say('1 entry that waited here has gone to the supervisor for decision.')}`);
        if (n > 1) setWhy(`${told} ${say('{{n}} entries that waited here have gone to the supervisor for decision.', { n })}`);
      });
    };
  }, []);
  return { why, ended: ended.current ? why : '', over: () => setWhy('') };
}

function Pages({ mode, setMode }: { mode: Mode; setMode: (m: Mode) => void }) {
  const me = useMe();
  useSend(queries, me.data?.id);
  const { why, ended, over } = useSignedOut();
  useEvents(!!me.data && !why);
  const who = me.data?.id;
  useEffect(() => {
    if (!who) return;
    const stop = new AbortController();
    // Once the page that was asked for is there.
    const later = window.setTimeout(() => {
      takeAlong(queries, stop.signal).catch(() => {}); // without a connection there is nothing to take along
      void forgetOldReads();
    }, 3000);
    return () => {
      stop.abort();
      window.clearTimeout(later);
    };
  }, [who]);
  const [welcoming, setWelcoming] = useState(() => window.location.pathname === '/welcome');
  const frame = useMemo(() => (me.data ? { me: me.data, mode, setMode } : undefined), [me.data, mode, setMode]);
  const enter = () => {
    over();
    setWelcoming(false);
    void queries.invalidateQueries();
  };
  if (welcoming) return <Welcome onDone={enter} />;
  if (window.location.pathname === '/with') return <WithPage />;
  if (me.isPending) return <Alone>{say('Opening Arvelt …')}</Alone>;
  if (me.data) placeAt(me.data.locale, me.data.timezone);
  if (!frame)
    return <SignIn onDone={enter} trouble={me.error && 'status' in me.error && me.error.status !== 401 ? me.error.message : ended} />;
  return (
    <FrameProvider value={frame}>
      {why && <SignIn onDone={enter} over trouble={why} />}
      <Offline />
      <Suspense fallback={<Alone>{say('Opening …')}</Alone>}>
        <Routes>
          <Route path="/" element={<Navigate to={firstPage[frame.me.role] ?? '/jobs'} replace />} />
          <Route path="/jobs" element={<Ours page={jobs.Page} locale={frame.me.locale} />} />
          <Route path="/today" element={<Ours page={today.Page} locale={frame.me.locale} />} />
          <Route path="/week" element={<Ours page={week.Page} locale={frame.me.locale} />} />
          <Route path="/company" element={<Ours page={company.Page} locale={frame.me.locale} />} />
          <Route path="/people" element={<Ours page={people.Page} locale={frame.me.locale} />} />
          <Route path="/bench" element={<Ours page={bench.Page} locale={frame.me.locale} />} />
          <Route path="/jobs/:id/:sheet" element={<job.Page />} />
          <Route path="/jobs/:id" element={<Navigate to="survey" replace />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </Suspense>
    </FrameProvider>
  );
}

export function App() {
  const [mode, setMode] = useState<Mode>(() => modeOf(localStorage.getItem(modeSlot)));
  const theme = useMemo(() => themeOf(mode), [mode]);
  useEffect(() => {
    localStorage.setItem(modeSlot, mode);
    document.documentElement.dataset.theme = mode;
  }, [mode]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Pages mode={mode} setMode={setMode} />
        </BrowserRouter>
      </QueryClientProvider>
    </ThemeProvider>
  );
}
