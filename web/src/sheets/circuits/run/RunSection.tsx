import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../../api/client';
import { useChangeRun } from '../../../api/job';
import type { Part } from '../../../api/part';
import { Caution, Heading, Quiet, Row, Section, Wrong } from '../../../parts/layout';
import { say } from '../../../words/words';
import { LegLine } from './LegLine';
import { PlacePoints } from './PlacePoints';
import { back, called, end, legOf, listed, type Doer, type Spot } from './run';
import { StopCard } from './StopCard';

const Cards = styled('ol')({ listStyle: 'none', margin: '6px 0', padding: 0 });
const Board = styled('li')({ fontWeight: 600, padding: '2px 0' });

/** A circuit as its run: what the cable comes to in order, how long each leg is, and what there is at each point. */
export function RunSection({
  job,
  circuit,
  circuits,
  part,
  report,
  unplaced,
}: {
  job: Of<'JobView'>;
  circuit: Of<'Circuit'>;
  circuits: Of<'Circuit'>[];
  part: Part<Of<'Circuit'>>;
  report?: Of<'CircuitReport'>;
  unplaced: Of<'Unplaced'>[];
}) {
  const change = useChangeRun(job.id);
  const [dragged, setDragged] = useState('');
  const frozen = job.view.frozen;
  const { serves } = circuit;
  const rows = listed(serves);
  const told = rows.some((x) => legOf(circuit, x.box.id));
  const ring = serves.back !== '';
  const act: Doer = (c) => change.mutate({ ...c, circuit: circuit.id });
  const drop = (spot: Spot) => {
    const [from, box] = dragged.split('/');
    setDragged('');
    if (box) change.mutate({ do: 'move', circuit: from, to: circuit.id, box, ...spot });
  };
  const leg = (to: string, spot: Spot) => (
    <LegLine
      key={`leg-${to}`}
      leg={legOf(circuit, to)}
      to={to === back ? say('the board') : called(serves.boxes.find((b) => b.id === to))}
      frozen={frozen}
      dragging={dragged !== ''}
      onDrop={() => drop(spot)}
      onLength={(lengthM, basis) => act({ do: 'leg', box: to, lengthM, basis })}
      onJoint={() => act({ do: 'joint', ...spot })}
      onBreak={ring && (to === back || rows.some((x) => x.box.id === to && x.lane === 0)) ? () => act({ do: 'break', box: to }) : undefined}
    />
  );
  return (
    <Section aria-label={say('Run')} data-run={circuit.id}>
      <Heading aside={<Quiet>{say('Alt with up or down moves a point; Enter opens its figures')}</Quiet>}>{say('Run')}</Heading>
      {rows.length === 0 && (
        <p>
          <Quiet>{say('No point stands on the run yet: what it feeds is only counted. Put the points of the walk on it below.')}</Quiet>
        </p>
      )}
      {rows.length > 1 && !told && (
        <Caution>
          {say(
            'The route says how much cable there is in all, not how much lies between the points: figures at each point are not known until it does.',
          )}
        </Caution>
      )}
      {rows.length > 0 && (
        <Cards>
          <Board>
            {circuit.from
              ? say('board that {{name}} feeds', { name: circuits.find((c) => c.id === circuit.from)?.name ?? '' })
              : job.view.job?.board.name}
          </Board>
          {rows.flatMap((x) => [
            leg(x.box.id, { after: x.box.from, before: x.box.id }),
            <StopCard
              key={x.box.id}
              job={job}
              row={x}
              circuit={circuit}
              circuits={circuits}
              part={part}
              stop={report?.run.find((r) => r.id === x.box.id)}
              frozen={frozen}
              act={act}
              onDrag={(on) => setDragged(on ? `${circuit.id}/${x.box.id}` : '')}
            />,
          ])}
          {ring && leg(back, { after: serves.back, before: back })}
          {ring && <Board>{say('back at the board')}</Board>}
        </Cards>
      )}
      <Row className="no-print" around="s">
        {rows.length > 1 && !told && (
          <Button disabled={frozen} onClick={() => act({ do: 'divide' })}>
            {say('Divide the route evenly, assumed')}
          </Button>
        )}
      </Row>
      {change.error && <Wrong>{change.error.message}</Wrong>}
      {!frozen && (
        <PlacePoints
          unplaced={unplaced}
          circuit={circuit}
          onPlace={(u) => act({ do: 'place', room: u.room, point: u.point, ...end(serves) })}
        />
      )}
    </Section>
  );
}
