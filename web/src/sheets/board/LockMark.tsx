import { say } from '../../words/words';

/** A padlock on a device that somebody keeps open. */
export function LockMark({ x, y, by }: { x: number; y: number; by: string }) {
  return (
    <g data-locked={by} transform={`translate(${x} ${y})`}>
      <title>{say('open, lock of {{by}}', { by })}</title>
      <path d="M4 8 V5 a4 4 0 0 1 8 0 V8" fill="none" stroke="var(--brick)" strokeWidth="2" />
      <rect x="1" y="8" width="14" height="10" fill="var(--brick)" />
    </g>
  );
}
