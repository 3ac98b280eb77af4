import { styled } from '@mui/material/styles';
import { msg, say } from '../words/words';
import type { Of } from '../api/client';

const Shape = styled('svg')({ flex: 'none', verticalAlign: '-2px' });

const words: Record<Of<'Verdict'>, string> = {
  pass: msg('pass'),
  caution: msg('caution'),
  fail: msg('fail'),
  unknown: msg('not recorded'),
};

/** A verdict by shape: disc proved, half disc caution, notched square fail, ring not yet known. */
export function Mark({ verdict, size = 14, label }: { verdict: Of<'Verdict'>; size?: number; label?: string }) {
  return (
    <Shape width={size} height={size} viewBox="0 0 14 14" role="img" aria-label={label ?? say(words[verdict])}>
      {verdict === 'pass' && <circle cx="7" cy="7" r="6" fill="var(--verdigris)" />}
      {verdict === 'caution' && (
        <>
          <circle cx="7" cy="7" r="5.2" fill="var(--sheet)" stroke="var(--ochre)" strokeWidth="1.6" />
          <path d="M7 1.8a5.2 5.2 0 0 0 0 10.4z" fill="var(--ochre)" />
        </>
      )}
      {verdict === 'fail' && <path d="M1 1h7v5h5v7H1z" fill="var(--brick)" />}
      {verdict === 'unknown' && <circle cx="7" cy="7" r="5.2" fill="var(--sheet)" stroke="var(--ink2)" strokeWidth="1.6" />}
    </Shape>
  );
}

export const verdictWord = (v: Of<'Verdict'>) => say(words[v]);
export const verdictInk = (v: Of<'Verdict'>) =>
  ({ pass: 'var(--verdigris)', caution: 'var(--ochre)', fail: 'var(--brick)', unknown: 'var(--ink2)' })[v];
