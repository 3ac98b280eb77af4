import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../../api/client';
import { useProposal, useTakeProposal } from '../../../api/job';
import { Bare, Heading, Item, List, P, Quiet, Row, Section, Wrong } from '../../../parts/layout';
import { say } from '../../../words/words';
import { ProposedCircuit } from './ProposedCircuit';

/** Circuits for the points of the walk that stand on none: looked at, and taken whole, one by one, or not. */
export function Proposal({ job, count, onTaken }: { job: Of<'JobView'>; count: number; onTaken: (id: string) => void }) {
  const [open, setOpen] = useState(false);
  const [left, setLeft] = useState<string[]>([]);
  const proposal = useProposal(job, open);
  const take = useTakeProposal(job.id);
  if (count === 0 || job.view.frozen) return null;
  if (!open)
    return (
      <Row className="no-print" around="s">
        <Button variant="contained" data-propose onClick={() => setOpen(true)}>
          {say('Propose circuits for {{count}} points', { count })}
        </Button>
        <Quiet>{say('What is on circuits already stays as it is.')}</Quiet>
      </Row>
    );
  const p = proposal.data;
  const chosen = p?.circuits.map((c) => c.id).filter((id) => !left.includes(id)) ?? [];
  const flip = (id: string) => setLeft(left.includes(id) ? left.filter((x) => x !== id) : [...left, id]);
  const send = () => {
    if (!p) return;
    take.mutate(
      { tag: p.tag, circuits: chosen },
      {
        onSuccess: () => {
          setLeft([]);
          onTaken(chosen[0]);
        },
      },
    );
  };
  return (
    <Section data-proposal>
      <Heading aside={<Button onClick={() => setOpen(false)}>{say('Close')}</Button>}>{say('Proposed circuits')}</Heading>
      {proposal.isPending && <p>{say('Working it out …')}</p>}
      {proposal.error && <Wrong>{proposal.error.message}</Wrong>}
      {p && (
        <>
          <P small quiet>
            {say(
              'Points in walking order, lengths by the routes of the walk and assumed until measured, the smallest device and conductor that pass. How a house is cut is chosen below, under company practice.',
            )}
          </P>
          {p.fails.map((f) => (
            <Wrong key={f}>{f}</Wrong>
          ))}
          {p.waysShort > 0 && (
            <Wrong>
              {say(
                'The board has too few free ways: {{count}} circuits find none. A board of {{n}} ways holds all of them with a fifth to spare.',
                { count: p.waysShort, n: p.waysNeeded },
              )}
            </Wrong>
          )}
          {p.shared.length > 0 && <P small>{say('Onto the board with them: {{names}}.', { names: p.shared.join(', ') })}</P>}
          <Bare>
            {p.circuits.map((c) => (
              <ProposedCircuit key={c.id} circuit={c} chosen={chosen.includes(c.id)} onChoose={() => flip(c.id)} />
            ))}
          </Bare>
          {p.left.length > 0 && (
            <>
              <P>{say('Nothing is proposed for these:')}</P>
              <List>
                {p.left.map((l) => (
                  <Item key={l.room + l.point + l.why}>
                    {l.room}: {l.count} × {l.point}. <Quiet>{l.why}</Quiet>
                  </Item>
                ))}
              </List>
            </>
          )}
          {take.error && <Wrong>{take.error.message}</Wrong>}
          <Row above="s">
            <Button variant="contained" disabled={chosen.length === 0 || take.isPending} onClick={send}>
              {chosen.length === p.circuits.length
                ? say('Take all {{count}} circuits', { count: chosen.length })
                : say('Take {{count}} circuits', { count: chosen.length })}
            </Button>
            <Button onClick={() => setLeft(left.length ? [] : p.circuits.map((c) => c.id))}>
              {left.length ? say('Choose all') : say('Choose none')}
            </Button>
            <Quiet>{say('One undo takes all of it back.')}</Quiet>
          </Row>
        </>
      )}
    </Section>
  );
}
