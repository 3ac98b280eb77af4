import { useState } from 'react';
import type { Of } from '../../api/client';
import { P } from '../../parts/layout';
import { Tick } from '../../parts/Tick';
import { say } from '../../words/words';
import { allRead, DeadReadings, nothingTyped, proofOf } from './DeadReadings';
import { servesBefore, servesSays, TesterFields } from './TesterFields';
import { useTester } from './useTester';

/** A proof at a place as it is made: the tester before, every pair, the tester after, with whose kit. */
export function useSequence(job: Of<'JobView'>, place: Of<'WorkPlace'> | undefined) {
  const { kit, setKit, remember } = useTester();
  const [typed, setTyped] = useState(nothingTyped);
  const [before, setBefore] = useState(false);
  const [after, setAfter] = useState(false);
  const serves = before ? undefined : servesBefore(job, kit);
  return {
    kit,
    setKit,
    remember,
    place,
    typed,
    setTyped,
    before,
    setBefore,
    after,
    setAfter,
    serves,
    whole: !!place && allRead(place, typed),
    proofs: place && Object.keys(typed.volts).length > 0 ? [proofOf(place, typed)] : [],
    tester: { provedBefore: before, provedAfter: after, ...(serves && { serves: serves.id }) },
  };
}

/** The sequence on the screen, in its order. */
export function Sequence({ s }: { s: ReturnType<typeof useSequence> }) {
  return (
    <>
      <TesterFields kit={s.kit} onChange={s.setKit} />
      {s.serves ? (
        <P around="xs">{servesSays(s.serves)}</P>
      ) : (
        <Tick name="provedBefore" label={say('Tester proved on a known source')} checked={s.before} onChange={s.setBefore} />
      )}
      {s.place && <DeadReadings place={s.place} typed={s.typed} onChange={s.setTyped} />}
      <Tick name="provedAfter" label={say('Tester proved again')} checked={s.after} disabled={!s.whole} onChange={s.setAfter} />
    </>
  );
}
