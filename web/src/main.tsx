import '@fontsource-variable/ibm-plex-sans';
import { createRoot } from 'react-dom/client';
import { App } from './App';
import { sheets } from './frame/sheets';

const opens = /^\/jobs\/[^/]+\/([a-z-]+)/.exec(window.location.pathname);
if (opens) void sheets.find((s) => s.id === opens[1])?.script();
const root = document.getElementById('root');
if (root) createRoot(root).render(<App />);

// The page opens without a connection too, once what it first needed is there.
const afterOpening = 4000;
const keeper = import.meta.env.PROD ? navigator.serviceWorker : undefined;
if (keeper) window.setTimeout(() => void keeper.register('/sw.js').catch(() => {}), afterOpening);

// A page that was kept and is of an older build than the server is opened anew, once nobody types in it.
const whileTyping = 5000;
const typing = () => /^(INPUT|TEXTAREA|SELECT)$/.test(document.activeElement?.tagName ?? '') || !!document.querySelector('[role=dialog]');
function renew() {
  if (typing()) window.setTimeout(renew, whileTyping);
  else window.location.reload();
}
if (keeper?.controller) keeper.addEventListener('controllerchange', renew, { once: true });
