import { Button, TextField } from '@mui/material';
import { useState, type FormEvent } from 'react';
import { useSearchParams } from 'react-router';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { Details, Fields, Form, Row, Wrong } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { say } from '../../words/words';
import { addBoard, type Fed } from './boards';
import { feedingUses, freeEnclosures } from './ways';

/** Adds a board beside the main one: fed by a distribution circuit, one that is there or a new one, or by the supply arrangement. */
export function AddBoard({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const terms = useTerms().data;
  const [, setParams] = useSearchParams();
  const [name, setName] = useState('');
  const [ways, setWays] = useState('8');
  const [from, setFrom] = useState('new');
  const [wrong, setWrong] = useState('');
  const [busy, setBusy] = useState(false);
  const feeding = feedingUses(terms);
  const fresh = terms?.defaults.find((c) => feeding.has(c.use));
  const feeds = j.circuits.filter((c) => feeding.has(c.use) && !j.boards.some((b) => b.feed === c.id));
  const enclosures = freeEnclosures(j);
  const fits = /^[1-9]\d?$/.test(ways) && Number(ways) <= 60;
  const sources: Record<string, Fed | undefined> = {
    new: fresh && { fresh: { ...fresh, state: job.view.about.circuit === 'kept' ? '' : job.view.about.circuit } },
    ...Object.fromEntries(feeds.map((c) => [`c:${c.id}`, { circuit: c.id }])),
    ...Object.fromEntries(enclosures.map((e) => [`e:${e.id}`, { enclosure: e.id }])),
  };
  const add = async (e: FormEvent) => {
    e.preventDefault();
    const fed = sources[from];
    if (!fed || !fits || !name.trim()) return;
    setBusy(true);
    setWrong('');
    try {
      const id = await addBoard(job, name.trim(), Number(ways), fed);
      setName('');
      setFrom('new');
      setParams({ leaf: id }, { replace: true });
    } catch (x) {
      setWrong(x instanceof Error ? x.message : String(x));
    }
    setBusy(false);
  };
  return (
    <Details className="no-print">
      <summary>{say('Add a board')}</summary>
      <Form onSubmit={(e) => void add(e)}>
        <Fields>
          <TextField
            label={say('Name of the board')}
            value={name}
            disabled={job.view.frozen}
            onChange={(e) => setName(e.target.value)}
            slotProps={{ htmlInput: { name: 'board', maxLength: 60 } }}
          />
          <Pick
            label={say('Fed by')}
            name="feed"
            value={from}
            onChange={setFrom}
            options={[
              ...(fresh ? [{ id: 'new', name: say('a new distribution circuit') }] : []),
              ...feeds.map((c) => ({ id: `c:${c.id}`, name: c.name })),
              ...enclosures.map((e) => ({ id: `e:${e.id}`, name: say('{{name}} of the supply arrangement', { name: e.name }) })),
            ]}
          />
          <TextField
            label={say('How many ways it has')}
            value={ways}
            disabled={job.view.frozen}
            error={!fits}
            helperText={!fits && say('Give a whole number from 1 to 60.')}
            onChange={(e) => setWays(e.target.value)}
            onFocus={(e) => e.target.select()}
            slotProps={{ htmlInput: { name: 'board-ways', inputMode: 'numeric' } }}
          />
        </Fields>
        <Row>
          <Button type="submit" variant="outlined" disabled={job.view.frozen || busy || !fits || !name.trim() || !sources[from]}>
            {say('Add board')}
          </Button>
        </Row>
        {wrong && <Wrong>{wrong}</Wrong>}
      </Form>
    </Details>
  );
}
