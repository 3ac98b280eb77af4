import { Button } from '@mui/material';
import { useEffect, useRef, type RefObject } from 'react';
import { useSearchParams } from 'react-router';
import type { Of } from '../../api/client';
import { useCircuits, useRemoveCircuit, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { ChoiceBox, NumberBox, TextBox, YesNoBox, choices } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { HeadroomBar } from '../../parts/HeadroomBar';
import { Fields, Heading, NotYet, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SchoolFields } from '../../parts/SchoolFields';
import { SheetHead } from '../../parts/SheetHead';
import type { SheetProps } from '../JobPage';
import { AddCircuit } from './AddCircuit';
import { DemandBar } from './DemandBar';
import { OperatorRecord } from './OperatorRecord';
import { PenOptions } from './PenOptions';
import { PointFields } from './PointFields';
import { RouteTable } from './RouteTable';

const by = (c: Of<'CircuitReport'>, id: string) => c.checks.find((k) => k.id === id);

/** Every figure of each circuit, computed while the route or the device changes. For the table, on a laptop. */
export function CircuitsSheet(props: SheetProps) {
  const { job, j, open } = props;
  const report = useCircuits(job.id);
  const [search, setSearch] = useSearchParams();
  const schools = usePart(job, 'schools', j.schools);
  const taker = useRef<Taker>(undefined); // the demand's remedies change the circuit open below
  const chosen = search.get('c') ?? j.circuits[0]?.id;
  const circuit = j.circuits.find((c) => c.id === chosen) ?? j.circuits[0];
  const r = report.data?.report;
  const demand = r?.job.find((c) => c.id === 'demand');
  const all = r ? r.circuits : [];
  const fails = all.filter((c) => c.verdict === 'fail').length;
  const pick = (id: string) => setSearch({ c: id }, { replace: true });
  return (
    <>
      <SheetHead
        title="Circuits"
        job={job.id}
        says={
          !j.circuits.length
            ? 'No circuit yet.'
            : `${j.circuits.length === 1 ? 'One circuit' : `${j.circuits.length} circuits`} from ${j.board.name}${fails ? `, ${fails} with a check that fails` : ''}.`
        }
        tables={[
          ['checks', 'Checks'],
          ['route', 'Routes'],
        ]}
      />
      {report.error && <Wrong>{report.error.message}</Wrong>}
      {report.isPending && <p>Computing …</p>}
      {r && demand && <DemandBar demand={r.demand} check={demand} onOpen={() => open(demand, (x) => taker.current?.(x))} />}
      {all.length > 0 && (
        <Scroll>
          <SheetTable aria-label="Circuits">
            <thead>
              <tr>
                <th style={{ width: 22 }} aria-label="Verdict" />
                <th scope="col">Circuit</th>
                <th scope="col">Device</th>
                <th scope="col">Conductor</th>
                <th scope="col" className="num">
                  Length
                </th>
                <th scope="col">Load on cable</th>
                <th scope="col">Voltage drop</th>
                <th scope="col">Loop impedance</th>
              </tr>
            </thead>
            <tbody>
              {all.map((c) => (
                <tr key={c.id} style={c.id === circuit?.id ? { background: 'var(--wash)' } : undefined}>
                  <td>
                    <Mark verdict={c.verdict} />
                  </td>
                  <td>
                    <button
                      type="button"
                      aria-pressed={c.id === circuit?.id}
                      onClick={() => pick(c.id)}
                      style={{
                        border: 0,
                        background: 'transparent',
                        font: 'inherit',
                        fontWeight: 600,
                        color: 'var(--copper)',
                        cursor: 'pointer',
                        padding: '4px 0',
                        textAlign: 'left',
                      }}
                    >
                      {c.name}
                    </button>
                  </td>
                  <td>{c.summary.device}</td>
                  <td>{c.summary.conductor}</td>
                  <td className="num">{figure(c.summary.lengthM, 'm')}</td>
                  <td>
                    <HeadroomBar check={by(c, 'capacity')} />
                  </td>
                  <td>
                    <HeadroomBar check={by(c, 'voltage-drop')} />
                  </td>
                  <td>
                    <HeadroomBar check={by(c, 'loop')} />
                  </td>
                </tr>
              ))}
            </tbody>
          </SheetTable>
        </Scroll>
      )}
      <AddCircuit job={job} onAdded={pick} />
      {circuit && <Circuit key={circuit.id} {...props} circuit={circuit} report={all.find((c) => c.id === circuit.id)} taker={taker} />}
      <Section>
        <Heading aside={<SaveLine part={schools} />}>Choices where practitioners differ, on this job</Heading>
        <SchoolFields part={schools as Part} />
      </Section>
      <NotYet>
        circuits of other kinds from templates, rings and sub-mains, surge devices, arc-fault detection, and trying a change without saving
        it. A charge point or one fixed load on its own cable is computed whole.
      </NotYet>
      {r && (
        <p>
          <Quiet>{r.notice}</Quiet>
        </p>
      )}
    </>
  );
}

type Taker = (r: Of<'Remedy'>) => void;

function Circuit({
  job,
  j,
  circuit,
  report,
  open,
  opened,
  taker,
}: SheetProps & { circuit: Of<'Circuit'>; report?: Of<'CircuitReport'>; taker: RefObject<Taker | undefined> }) {
  const name = `circuits/${circuit.id}`;
  const part = usePart(job, name, circuit);
  const terms = useTerms().data;
  const remove = useRemoveCircuit(job.id);
  const cable = terms?.cables.find((c) => c.id === part.value.route.cableType);
  const take = (r: Of<'Remedy'>) => {
    for (const s of r.sets) if (s.part === name) part.set(s.field, s.value);
    part.commit();
  };
  useEffect(() => {
    taker.current = take;
  });
  const bound = part as Part;
  // A way and an enclosure of its own rule each other out: one choice takes the other back.
  const placed: Part = {
    ...bound,
    save: (path, value) => {
      if (path === 'protection.way' && value) part.set('protection.ownEnclosure', false);
      if (path === 'protection.ownEnclosure' && value) part.set('protection.way', 0);
      part.save(path, value);
    },
  };
  const free = j.board.ways.filter(
    (w) =>
      w.no === part.value.protection.way ||
      (!w.label && !w.device && !w.circuit && !j.circuits.some((c) => c.id !== circuit.id && c.protection.way === w.no)),
  );
  const pen = report?.checks.find((c) => c.id === 'pen');
  return (
    <div data-circuit={circuit.id}>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{circuit.name}: cable and device</Heading>
        <Fields style={{ gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 168px), 1fr))' }}>
          <TextBox part={bound} path="name" label="Name" />
          <ChoiceBox part={bound} path="route.cableType" label="Cable" options={terms?.cables ?? []} />
          <ChoiceBox part={bound} path="route.lineMM2" label="Line conductor, mm²" numeric options={choices(cable?.sizes)} />
          <YesNoBox part={bound} path="route.terminals90" label="Terminals made for 90 °C" sure help="no, unless the makers say so" />
          <ChoiceBox part={bound} path="protection.curve" label="Curve" options={choices(terms?.curves)} />
          <ChoiceBox part={bound} path="protection.ratingA" label="Rating, A" numeric options={choices(terms?.ratings)} />
          <NumberBox part={bound} path="protection.icnKA" label="Breaks" unit="kA" />
          <ChoiceBox
            part={bound}
            path="protection.rcdType"
            label="Residual current, type"
            options={choices(terms?.rcdTypes)}
            empty="none"
          />
          <NumberBox part={bound} path="protection.idnMA" label="Residual current" unit="mA" />
          <ChoiceBox
            part={placed}
            path="protection.way"
            label="Way on the board"
            numeric
            help={part.value.protection.ownEnclosure ? 'none: it stands in its own enclosure' : undefined}
            options={[
              { id: '0', name: part.value.protection.ownEnclosure ? 'none' : 'not placed' },
              ...free.map((w) => ({ id: String(w.no), name: `way ${w.no}` })),
            ]}
          />
          <YesNoBox
            part={placed}
            path="protection.ownEnclosure"
            label="In an enclosure of its own"
            sure
            help="beside the board, fed from the tails"
          />
        </Fields>
      </Section>
      <Section>
        <Heading aside={<Quiet>a line opens its working</Quiet>}>Checks</Heading>
        <CheckList checks={report?.checks ?? []} onOpen={(c) => open(c, take)} opened={opened} />
      </Section>
      {report && report.options.length > 0 && <PenOptions part={part} options={report.options} check={pen} />}
      {report && circuit.use === 'ev' && (
        <OperatorRecord job={job} circuit={circuit.id} rule={report.operator} check={report.checks.find((c) => c.id === 'operator')} />
      )}
      <Section>
        <Heading>The point</Heading>
        <PointFields part={part} />
      </Section>
      <Section>
        <Heading>Route</Heading>
        <RouteTable part={part} lengthM={report?.summary.lengthM} />
      </Section>
      <Row className="no-print">
        <Button disabled={job.view.frozen} onClick={() => remove.mutate({ part: name, base: job.versions[name] ?? 0 })}>
          Remove this circuit
        </Button>
        <Quiet>Undo brings it back.</Quiet>
        {remove.error && <Wrong>{remove.error.message}</Wrong>}
      </Row>
      <div style={{ height: 18 }} />
    </div>
  );
}
