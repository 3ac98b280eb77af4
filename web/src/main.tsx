import '@fontsource-variable/ibm-plex-sans';
import { createRoot } from 'react-dom/client';
import { App, pages } from './App';
import { scriptOf, scripts } from './sheets/scripts';

const opens = /^\/jobs\/[^/]+\/([a-z-]+)/.exec(window.location.pathname);
if (opens) {
  void pages.job();
  const script = scriptOf[opens[1]];
  if (script) void scripts[script]();
}
const root = document.getElementById('root');
if (root) createRoot(root).render(<App />);

// The page opens without a connection too, once what it first needed is there.
const afterOpening = 4000;
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  window.setTimeout(() => void navigator.serviceWorker.register('/sw.js').catch(() => {}), afterOpening);
