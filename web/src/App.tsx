import { CssBaseline, ThemeProvider } from '@mui/material';
import { QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { signedOut } from './api/client';
import { queries, useEvents, useMe } from './api/job';
import { BenchPage } from './bench/BenchPage';
import { CompanyPage } from './company/CompanyPage';
import { FrameProvider } from './frame/Shell';
import { JobsPage } from './jobs/JobsPage';
import { JobPage } from './sheets/JobPage';
import { SignIn } from './signin/SignIn';
import { themeOf, type Mode } from './theme';

const modeSlot = 'arvelt:theme';

function Pages({ mode, setMode }: { mode: Mode; setMode: (m: Mode) => void }) {
  const me = useMe();
  const [expired, setExpired] = useState(false);
  useEffect(() => {
    signedOut.tell = () => setExpired(true);
  }, []);
  useEvents(!!me.data && !expired);
  const frame = useMemo(() => (me.data ? { me: me.data, mode, setMode } : undefined), [me.data, mode, setMode]);
  if (me.isPending) return <p style={{ padding: 20 }}>Opening Arvelt …</p>;
  const enter = () => {
    setExpired(false);
    void queries.invalidateQueries();
  };
  if (!frame)
    return <SignIn onDone={enter} trouble={me.error && 'status' in me.error && me.error.status !== 401 ? me.error.message : ''} />;
  return (
    <FrameProvider value={frame}>
      {expired && <SignIn onDone={enter} over trouble="The session has expired. What you typed is kept: sign in and go on." />}
      <Routes>
        <Route path="/" element={<JobsPage />} />
        <Route path="/company" element={<CompanyPage />} />
        <Route path="/bench" element={<BenchPage />} />
        <Route path="/jobs/:id/:sheet" element={<JobPage />} />
        <Route path="/jobs/:id" element={<Navigate to="survey" replace />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </FrameProvider>
  );
}

export function App() {
  const [mode, setMode] = useState<Mode>(() => (localStorage.getItem(modeSlot) as Mode | null) ?? 'light');
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
