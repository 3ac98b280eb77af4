import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../../api/client';
import { useRunWorking, useTerms } from '../../../api/job';
import type { Part } from '../../../api/part';
import { ChoiceBox, NumberBox, TextBox, YesNoBox } from '../../../parts/fields';
import { figure } from '../../../parts/figure';
import { Block, Fields, P, Quiet, Row, Scroll, SheetTable } from '../../../parts/layout';
import { Pick } from '../../../parts/Pick';
import { useUnits } from '../../../parts/units';
import { say } from '../../../words/words';
import { end, label, type Doer, type Listed } from './run';

/** A point of a run, in its circuit, with what may be done to it. */
export interface StopProps {
  job: Of<'JobView'>;
  row: Listed;
  circuit: Of<'Circuit'>;
  circuits: Of<'Circuit'>[];
  part: Part<Of<'Circuit'>>;
  stop?: Of<'StopReport'>;
  frozen: boolean;
  act: Doer;
}

const Num = styled('td')({ textAlign: 'right', whiteSpace: 'nowrap' });

/** What there is at a point with its working, what opens it, and what can be done with it. */
export function StopDetails({ job, row, circuit, circuits, part, stop, frozen, act }: StopProps) {
  const units = useUnits();
  const terms = useTerms().data;
  const [to, setTo] = useState('');
  const { box, at } = row;
  const bound = part as Part;
  const field = (name: string) => `serves.boxes[${at}].${name}`;
  const names = (ids: string[]) =>
    ids
      .map((id) => circuit.serves.boxes.find((b) => b.id === id))
      .map((b) => (b && (label(b) || b.name)) ?? '')
      .join(', ');
  const steps = useRunWorking(job.id, circuit.id, job.version).data?.find((s) => s.id === box.id)?.steps ?? [];
  const target = circuits.find((c) => c.id === to);
  const joint = box.device === 'none';
  return (
    <Block above="s">
      {stop && stop.outM !== null && <P small>{say('{{m}} of cable from the board.', { m: units.show(stop.outM, 'm') })}</P>}
      {stop && stop.by.length > 0 && <P small>{say('Opened by: {{by}}.', { by: stop.by.join('; ') })}</P>}
      {stop && stop.protects.length > 0 && <P small>{say('Its own device opens: {{names}}.', { names: names(stop.protects) })}</P>}
      {stop && stop.onward.length > 0 && (
        <P small>{say('Dead when the cable to it is cut, beside it: {{names}}.', { names: names(stop.onward) })}</P>
      )}
      {steps.length > 0 && (
        <Scroll>
          <SheetTable aria-label={say('Working at {{name}}', { name: box.name })} data-cards>
            <tbody>
              {steps.map((s, i) => (
                <tr key={i}>
                  <td>
                    <b>{s.symbol}</b>
                  </td>
                  <td data-whole>
                    {s.formula} <Quiet>{s.with}</Quiet>
                  </td>
                  <Num>{figure(s.value, s.unit)}</Num>
                  <td>
                    <Quiet>{s.source}</Quiet>
                  </td>
                </tr>
              ))}
            </tbody>
          </SheetTable>
        </Scroll>
      )}
      <Fields above="m" least={150}>
        <TextBox part={bound} path={field('name')} label={say('Where it is')} />
        <ChoiceBox part={bound} path={field('device')} label={say('What it is')} options={terms?.boxDevices ?? []} />
        {!joint && (
          <NumberBox
            part={bound}
            path={field('takes')}
            label={say('Conductors under one terminal')}
            help={say('as its maker states; 0: nobody read it')}
          />
        )}
        {joint && <NumberBox part={bound} path={field('ratingA')} label={say('Rating of the joint')} unit="A" help={say('0: not known')} />}
        {joint && <YesNoBox part={bound} path={field('accessible')} label={say('Can be reached to be inspected')} />}
        {joint && box.accessible === false && (
          <YesNoBox part={bound} path={field('sealed')} label={say('Marked maintenance-free')} help={say('by its manufacturer')} />
        )}
      </Fields>
      <Row above="m" className="no-print">
        <Pick
          label={say('Move to circuit')}
          name={`to-${box.id}`}
          value={to}
          onChange={setTo}
          options={circuits.filter((c) => c.id !== circuit.id).map((c) => ({ id: c.id, name: c.name }))}
        />
        <Button disabled={frozen || !target} onClick={() => target && act({ do: 'move', box: box.id, to, ...end(target.serves) })}>
          {say('Move')}
        </Button>
        <Button disabled={frozen} onClick={() => act({ do: 'split', box: box.id })}>
          {say('From here on a circuit of its own')}
        </Button>
        {terms?.rings && !circuit.serves.back && (
          <Button disabled={frozen} onClick={() => act({ do: 'close', box: box.id })}>
            {say('Back to the board from here: a ring')}
          </Button>
        )}
        <Button disabled={frozen} onClick={() => act({ do: 'off', box: box.id })}>
          {say('Take off the run')}
        </Button>
      </Row>
    </Block>
  );
}
