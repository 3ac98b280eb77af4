import { msg, say } from '../words/words';
import { Button, Dialog } from '@mui/material';
import { styled } from '@mui/material/styles';
import { createContext, useCallback, useContext, useLayoutEffect, useMemo, useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { forgetAnswers } from '../api/answer';
import { api, ask, type Of } from '../api/client';
import { queries } from '../api/job';
import { forgetRead } from '../api/reading';
import { Aside, DialogTitle, Inside, Key, Quiet } from '../parts/layout';
import type { Mode } from '../theme';
import { Finder, type Action } from './Finder';

const Tools = styled(Aside)({ flexWrap: 'nowrap', flex: 'none' });
const Crumb = styled('span')({ minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' });
const Hint = styled('span')({ marginLeft: 6 });
const Unseen = styled('span')({ position: 'absolute', width: 1, height: 1, overflow: 'hidden' });
const ThemeChoice = styled('select')({
  font: 'inherit',
  background: 'var(--sheet)',
  color: 'var(--ink)',
  border: '1px solid var(--rule2)',
  minHeight: 32,
});
const Shortcut = styled('p')({ margin: '6px 0', display: 'grid', gridTemplateColumns: '90px 1fr' });

const Top = styled('header')({
  position: 'sticky',
  top: 0,
  zIndex: 30,
  minHeight: 52,
  display: 'flex',
  alignItems: 'center',
  gap: 14,
  padding: '4px 16px',
  background: 'var(--paper)',
  borderBottom: '1px solid var(--ink)',
  '& .brand': {
    fontWeight: 700,
    fontSize: '1.15em',
    color: 'var(--ink)',
    textDecoration: 'none',
    borderLeft: '14px solid var(--copper)',
    borderLeftWidth: 5,
    paddingLeft: 8,
  },
  '@media (max-width:700px)': { padding: '2px 10px', gap: 8, '& .wide': { display: 'none' } },
  '@media print': { display: 'none' },
});

interface Frame {
  me: Of<'Me'>;
  mode: Mode;
  setMode: (m: Mode) => void;
}

const FrameContext = createContext<Frame | undefined>(undefined);

export function useFrame(): Frame {
  const f = useContext(FrameContext);
  if (!f) throw new Error(say('a sheet stands inside the shell'));
  return f;
}

export const FrameProvider = FrameContext.Provider;

const typing = (t: EventTarget | null) => t instanceof HTMLElement && (t.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(t.tagName));

// While something typed is not saved, Ctrl+Z is the field's own undo.
const unsaved = () => document.querySelector('[data-status]:not([data-status=saved]), [aria-invalid=true], [role=alert]') !== null;

interface Props {
  job?: Of<'JobView'>;
  crumb: ReactNode;
  tools?: ReactNode;
  actions?: Action[];
  shortcuts?: [string, string][];
  onKey?: (key: string, e: KeyboardEvent) => void;
  children: ReactNode;
}

const modes: { id: Mode; name: string }[] = [
  { id: 'light', name: msg('Light') },
  { id: 'dark', name: msg('Dark') },
  { id: 'sun', name: msg('Sunlight') },
];

/** The frame of every page: where you are, the finder, who is signed in, and the keys. */
const Open = styled('p')({
  margin: 0,
  padding: '3px 14px',
  background: 'var(--wash)',
  borderBottom: '1px solid var(--rule2)',
  fontSize: '.86em',
});

export function Shell({ job, crumb, tools, actions = [], shortcuts = [], onKey, children }: Props) {
  const { me, mode, setMode } = useFrame();
  const [open, setOpen] = useState<'find' | 'keys' | ''>('');
  const go = useNavigate();
  const close = useCallback(() => setOpen(''), []);
  // The keys are heard as soon as the page is there: what is pressed before its effects ran is not lost.
  useLayoutEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        setOpen('find');
      } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z' && !unsaved()) {
        onKey?.(e.shiftKey ? 'ctrl+y' : 'ctrl+z', e);
      } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'y' && !unsaved()) {
        onKey?.('ctrl+y', e);
      } else if (typing(e.target) || e.altKey) {
        return;
      } else if (e.key === '?') setOpen('keys');
      else onKey?.((e.ctrlKey || e.metaKey ? 'ctrl+' : '') + e.key.toLowerCase(), e);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [onKey]);
  const signOut = useCallback(async () => {
    await ask(api.DELETE('/api/session'));
    await forgetRead(me.id);
    forgetAnswers();
    queries.clear();
    window.location.assign('/');
  }, [me.id]);
  const all = useMemo<Action[]>(
    () => [
      ...actions,
      { name: say('Today'), hint: 'page', run: () => void go('/today') },
      { name: say('The week'), hint: 'page', run: () => void go('/week') },
      { name: say('All jobs'), hint: 'page', run: () => void go('/jobs') },
      { name: say('Calculators'), hint: 'page', run: () => void go('/bench') },
      { name: say('Prices, hours and instruments'), hint: 'page', run: () => void go('/company') },
      { name: say('People and my account'), hint: 'page', run: () => void go('/people') },
      ...modes.map((m) => ({ name: say('{{name}} theme', { name: m.name }), hint: 'action', run: () => setMode(m.id) })),
      { name: say('Sign out'), hint: 'action', run: () => void signOut() },
    ],
    [actions, go, setMode, signOut],
  );
  return (
    <>
      <Top>
        <Link to="/" className="brand">
          {say('Arvelt')}
        </Link>
        <Crumb>{crumb}</Crumb>
        <Tools>
          {tools}
          <Button component={Link} to="/bench">
            {say('Calculators')}
          </Button>
          <Button onClick={() => setOpen('find')}>
            {say('Find')}
            <Hint className="wide">
              <Key>{say('Ctrl K')}</Key>
            </Hint>
          </Button>
          <label className="wide">
            <Unseen>{say('Theme')}</Unseen>
            <ThemeChoice value={mode} onChange={(e) => setMode(e.target.value as Mode)}>
              {modes.map((m) => (
                <option key={m.id} value={m.id}>
                  {say(m.name)}
                </option>
              ))}
            </ThemeChoice>
          </label>
          <Quiet className="wide">
            <Link to="/people">{me.name}</Link> · {say(me.role)}
          </Quiet>
          <Button className="wide" onClick={() => void signOut()}>
            {say('Sign out')}
          </Button>
        </Tools>
      </Top>
      {me.open && (
        <Open role="note">{say('Demo company: whoever uses this computer goes in without a password. Nothing real belongs here.')}</Open>
      )}
      {children}
      {open === 'find' && <Finder job={job} actions={all} onClose={close} />}
      <Dialog open={open === 'keys'} onClose={close} aria-labelledby="keys">
        <Inside least={300}>
          <DialogTitle id="keys">{say('Keys here')}</DialogTitle>
          {[[say('Ctrl K'), say('find a job, sheet, circuit or action')], ['?', say('these keys')], ...shortcuts].map(([k, what]) => (
            <Shortcut key={k}>
              <span>
                <Key>{k}</Key>
              </span>
              {what}
            </Shortcut>
          ))}
          <Button onClick={close}>{say('Close')}</Button>
        </Inside>
      </Dialog>
    </>
  );
}
