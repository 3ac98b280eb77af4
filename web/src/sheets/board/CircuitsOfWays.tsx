import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { keep, putParts, queries, useTerms } from '../../api/job';
import { Bare, Details, P, Quiet, Row, Wrong } from '../../parts/layout';
import { say } from '../../words/words';
import { freeId } from '../circuits/add';
import { states } from '../circuits/states';
import { circuitsOn, feederOf, leaversOn, partOfBoard, placesOf } from './ways';

/** Makes circuits of what the ways of a board name, each as a kind of circuit starts: what is there is written once. */
export function CircuitsOfWays({ job, j, board }: { job: Of<'JobView'>; j: Of<'Job'>; board: Of<'Board'> }) {
  const terms = useTerms().data;
  const [kinds, setKinds] = useState<Record<number, string>>({});
  const [state, setState] = useState<Of<'Circuit'>['state']>(job.view.about.circuit || 'kept');
  const [wrong, setWrong] = useState('');
  const taken = new Set([...circuitsOn(j, board), ...leaversOn(j, board)].flatMap((c) => placesOf(c.protection, terms?.columns)));
  const named = board.ways.filter((w) => (w.label || w.device) && !w.circuit && !taken.has(w.no));
  const chosen = named.filter((w) => kinds[w.no]);
  if (named.length === 0 || job.view.frozen || !terms?.defaults?.length) return null;
  const make = async () => {
    const all = [...j.circuits];
    const parts: Record<string, unknown> = {};
    const ids: Record<number, string> = {};
    for (const w of chosen) {
      const of = terms.defaults.find((c) => c.name === kinds[w.no]);
      if (!of) continue;
      const id = freeId(all);
      ids[w.no] = id;
      const protection = { ...of.protection, way: w.no, poles: Math.max(1, w.poles || of.protection.poles) };
      const fresh = { ...of, id, name: w.label || of.name, state, from: feederOf(board), protection };
      all.push(fresh);
      parts[`circuits/${id}`] = fresh;
    }
    parts[partOfBoard(board)] = { ...board, ways: board.ways.map((w) => (ids[w.no] ? { ...w, circuit: ids[w.no] } : w)) };
    try {
      keep(queries, await putParts(job, say('circuits of what the ways name'), parts, newKey()));
      setKinds({});
      setWrong('');
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  return (
    <Details className="no-print">
      <summary>{say('Ways that name what is no circuit of the job yet: {{count}}', { count: named.length })}</summary>
      <P small quiet>
        {say('Each becomes a circuit on its way. Its cable and device count as not looked at until somebody says so.')}
      </P>
      <Bare>
        {named.map((w) => (
          <Row as="li" key={w.no} gap="s" align="center">
            <TextField
              select
              size="small"
              label={say('Way {{no}}: {{name}}', { no: w.no, name: w.label || w.device })}
              value={kinds[w.no] ?? ''}
              onChange={(e) => setKinds({ ...kinds, [w.no]: e.target.value })}
              slotProps={{ select: { native: true }, htmlInput: { 'data-way': w.no } }}
              fullWidth={false}
              sx={{ width: 320, maxWidth: '100%', marginTop: 1 }}
            >
              <option value="">{say('leave it as it is')}</option>
              {terms.defaults.map((c) => (
                <option key={c.name} value={c.name}>
                  {c.name}
                </option>
              ))}
            </TextField>
            {w.label && w.device && <Quiet>{w.device}</Quiet>}
          </Row>
        ))}
      </Bare>
      <Row above="s">
        <TextField
          select
          label={say('This job')}
          value={state}
          onChange={(e) => setState(e.target.value as Of<'Circuit'>['state'])}
          slotProps={{ select: { native: true }, htmlInput: { name: 'ways-state' } }}
          fullWidth={false}
          sx={{ width: 320, maxWidth: '100%' }}
        >
          {states().map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </TextField>
        <Button disabled={chosen.length === 0} onClick={() => void make()}>
          {say('Make {{count}} circuits', { count: chosen.length })}
        </Button>
      </Row>
      {wrong && <Wrong>{wrong}</Wrong>}
    </Details>
  );
}
