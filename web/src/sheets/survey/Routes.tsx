import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useCase, useCircuits } from '../../api/job';
import { usePart } from '../../api/part';
import { figure } from '../../parts/figure';
import { Block, Heading, Quiet, Row, Scroll, Section, SheetTable } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { useUnits } from '../../parts/units';
import { SaveLine } from '../../parts/SaveLine';
import { AddCircuit } from '../circuits/AddCircuit';
import { PointFields } from '../circuits/PointFields';
import { RouteTable } from '../circuits/RouteTable';

/**
 * The ways of the cables, measured and estimated kept apart, and what an estimate does to each check. For the
 * walk and the drawing board.
 */
export function Routes({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const sheet = useCase(job.id).data;
  const units = useUnits();
  return (
    <>
      {j.circuits.map((c) => (
        <CircuitWay key={c.id} job={job} circuit={c} effect={sheet?.routes.find((r) => r.circuit === c.id)} />
      ))}
      <AddCircuit job={job} />
      {job.view.walk.rooms.length > 0 && (
        <Section>
          <Heading>{say('From the board to the rooms')}</Heading>
          <Scroll>
            <SheetTable aria-label={say('Ways to the rooms')}>
              <thead>
                <tr>
                  <th scope="col">{say('Room')}</th>
                  <th scope="col">{say('Through')}</th>
                  <th scope="col" className="num">
                    {say('Measured')}
                  </th>
                  <th scope="col" className="num">
                    {say('Estimated')}
                  </th>
                  <th scope="col">{say('Installation')}</th>
                </tr>
              </thead>
              <tbody>
                {j.rooms.map((r) => {
                  const v = job.view.walk.rooms.find((x) => x.id === r.id);
                  return (
                    <tr key={r.id}>
                      <td>{r.name}</td>
                      <td>{j.rooms.find((x) => x.id === r.from)?.name ?? say('the board')}</td>
                      <td className="num">{v?.measuredM ? units.show(v.measuredM, 'm') : ''}</td>
                      <td className="num">{v?.estimatedM ? `◐ ${units.show(v.estimatedM, 'm')}` : ''}</td>
                      <td>
                        {!v?.routeKnown && <Quiet>{say('○ not recorded all along.')} </Quiet>}
                        {v?.method}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </SheetTable>
          </Scroll>
          <Quiet>{say('Lengths and construction are noted in each room of the survey, under Cable route and construction.')}</Quiet>
        </Section>
      )}
    </>
  );
}

function CircuitWay({ job, circuit, effect }: { job: Of<'JobView'>; circuit: Of<'Circuit'>; effect?: Of<'RouteEffect'> }) {
  const part = usePart(job, `circuits/${circuit.id}`, circuit);
  const report = useCircuits(job.id).data?.report.circuits.find((c) => c.id === circuit.id);
  return (
    <Section data-circuit={circuit.id}>
      <Heading aside={<SaveLine part={part} />}>{say('{{name}}: where it goes and the way of its cable', { name: circuit.name })}</Heading>
      <PointFields part={part} />
      <Block above="m" />
      <RouteTable part={part} lengthM={report?.summary.lengthM} />
      {effect && (
        <Block data-estimate={circuit.id} above="s">
          <Row>
            <span>
              {say('Measured')} <b>{figure(effect.measuredM, 'm')}</b>
              {say(', estimated')} <b>{figure(effect.estimatedM, 'm')}</b>. {effect.summary}
            </span>
          </Row>
          {effect.checks.length > 0 && (
            <Scroll>
              <SheetTable aria-label={say('What the estimate does to {{name}}', { name: circuit.name })}>
                <thead>
                  <tr>
                    <th scope="col">{say('Check')}</th>
                    <th scope="col" className="num">
                      {say('As estimated')}
                    </th>
                    <th scope="col" className="num">
                      {say('A fifth longer')}
                    </th>
                    <th scope="col" className="num">
                      {say('Limit')}
                    </th>
                    <th scope="col">{say('The estimate')}</th>
                  </tr>
                </thead>
                <tbody>
                  {effect.checks.map((h) => (
                    <tr key={h.check}>
                      <td>{h.title}</td>
                      <td className="num">
                        <Mark verdict={h.now} size={12} /> {figure(h.value, h.unit)}
                      </td>
                      <td className="num">
                        <Mark verdict={h.longer} size={12} /> {figure(h.longerValue, h.unit)}
                      </td>
                      <td className="num">{figure(h.limit, h.unit)}</td>
                      <td>{h.summary}</td>
                    </tr>
                  ))}
                </tbody>
              </SheetTable>
            </Scroll>
          )}
        </Block>
      )}
    </Section>
  );
}
