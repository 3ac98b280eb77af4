import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useEffect, useRef, useState, type KeyboardEvent, type RefObject } from 'react';
import { useSearchParams } from 'react-router';
import { newKey, type Of } from '../../api/client';
import { keep, putPart, queries, useAsks, useCircuits, useRemovePart, useSheetAsks, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import type { Path } from '../../api/paths';
import { takeRemedy } from '../../api/take';
import { useTrial } from '../../api/trial';
import { CheckList } from '../../parts/CheckList';
import { TextBox } from '../../parts/fields';
import { HeadroomBar } from '../../parts/HeadroomBar';
import { Fields, Heading, NotYet, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { LocalRules } from '../../parts/LocalRules';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SchoolFields } from '../../parts/SchoolFields';
import { SheetHead } from '../../parts/SheetHead';
import { useUnits } from '../../parts/units';
import type { SheetProps } from '../props';
import { addCircuit } from './add';
import { AddCircuit } from './AddCircuit';
import { ConductorFields } from './ConductorFields';
import { Consequences } from './Consequences';
import { DemandBar } from './DemandBar';
import { DeviceFields } from './DeviceFields';
import { KeptCalcs } from './KeptCalcs';
import { MakerFigures } from './MakerFigures';
import { OperatorRecord } from './OperatorRecord';
import { OtherBuilding } from './OtherBuilding';
import { OutletString } from './OutletString';
import { PenOptions } from './PenOptions';
import { PointFields } from './PointFields';
import { RouteTable } from './RouteTable';
import { halves } from './boxes';
import { inOrder, swapWays, wayOf } from './order';
import { ServesFields } from './ServesFields';

const by = (c: Of<'CircuitReport'>, id: string) => c.checks.find((k) => k.id === id);

/** Every figure of each circuit, computed while the route or the device changes. For the table, on a laptop. */
export function CircuitsSheet(props: SheetProps) {
  const { job, j, open } = props;
  const report = useCircuits(job.id);
  const bars = useTerms().data?.bars ?? [];
  const units = useUnits();
  const [search, setSearch] = useSearchParams();
  const schools = usePart(job, 'schools', j.schools);
  const [wrong, setWrong] = useState('');
  const taker = useRef<Taker>(undefined); // the demand's remedies change the circuit open below
  const chosen = search.get('c') ?? j.circuits[0]?.id;
  const circuit = j.circuits.find((c) => c.id === chosen) ?? j.circuits[0];
  const r = report.data?.report;
  const demand = r?.job.find((c) => c.leaf === 'demand');
  const houseChecks = r?.job.filter((c) => c.sheet === 'circuits' && c !== demand) ?? [];
  const all = inOrder(j.circuits, r?.circuits ?? []);
  const fails = all.filter((c) => c.verdict === 'fail').length;
  const pick = (id: string) => setSearch({ c: id }, { replace: true });
  // Up and down go through the circuits; what is open below follows.
  // With Alt the circuit itself moves: it changes ways with its neighbour.
  const step = (e: KeyboardEvent<HTMLElement>) => {
    const by = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0;
    const rows = [...(e.currentTarget.closest('tbody')?.querySelectorAll<HTMLElement>('[data-row]') ?? [])];
    const to = rows[rows.indexOf(e.currentTarget) + by];
    if (!by || !to) return;
    e.preventDefault();
    if (e.altKey) {
      setWrong('');
      swapWays(job, e.currentTarget.dataset.row ?? '', to.dataset.row ?? '').catch((x: unknown) =>
        setWrong(x instanceof Error ? x.message : String(x)),
      );
      return;
    }
    to.focus();
    pick(to.dataset.row ?? '');
  };
  const head = (
    <SheetHead
      title={say('Circuits')}
      job={job.id}
      summary={
        !j.circuits.length
          ? say('No circuit yet.')
          : say('{{x}} from {{name}}{{x2}}.', {
              x: j.circuits.length === 1 ? say('One circuit') : say('{{circuits}} circuits', { circuits: j.circuits.length }),
              name: j.board.name,
              x2: fails ? say(', {{fails}} with a check that fails', { fails }) : '',
            })
      }
      tables={[
        ['checks', say('Checks')],
        ['route', say('Routes')],
      ]}
    />
  );
  if (report.isPending)
    return (
      <>
        {head}
        <p>{say('Computing …')}</p>
      </>
    );
  return (
    <>
      {head}
      {report.error && <Wrong>{report.error.message}</Wrong>}
      {r && demand && <DemandBar demand={r.demand} check={demand} onOpen={() => open(demand, (x) => taker.current?.(x))} />}
      {all.length > 0 && (
        <Scroll>
          <SheetTable aria-label={say('Circuits')} data-cards>
            <thead>
              <tr>
                <th style={{ width: 22 }} aria-label={say('Verdict')} />
                <th scope="col">{say('Way')}</th>
                <th scope="col" style={{ minWidth: 130 }}>
                  {say('Circuit')}
                </th>
                <th scope="col">{say('Device')}</th>
                <th scope="col">{say('Conductor')}</th>
                <th scope="col">{say('Length, of the longest')}</th>
                {bars.map((b) => (
                  <th key={b.id} scope="col">
                    {b.name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {all.map((c) => (
                <tr key={c.id} style={c.id === circuit?.id ? { background: 'var(--wash)' } : undefined}>
                  <td>
                    <Mark verdict={c.verdict} />
                  </td>
                  <td data-label={say('Way')}>
                    <Quiet>{wayOf(j.circuits, c.id)}</Quiet>
                  </td>
                  <td>
                    <button
                      type="button"
                      aria-pressed={c.id === circuit?.id}
                      data-row={c.id}
                      onClick={() => pick(c.id)}
                      onKeyDown={step}
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
                  <td data-whole style={{ whiteSpace: 'nowrap' }}>
                    {c.summary.device}
                  </td>
                  <td style={{ whiteSpace: 'nowrap' }}>{c.summary.conductor}</td>
                  <td data-label={say('Length')} style={{ whiteSpace: 'nowrap' }}>
                    {units.show(c.summary.lengthM, 'm')}{' '}
                    {c.summary.maxLengthM > 0 && (
                      <Quiet>
                        {say('of {{maxLengthM}}, {{governs}}', {
                          maxLengthM: Math.floor(c.summary.maxLengthM / units.m.per),
                          governs: c.summary.governs,
                        })}
                      </Quiet>
                    )}
                  </td>
                  {bars.map((b) => (
                    <td key={b.id} data-label={b.name}>
                      <HeadroomBar check={by(c, b.id)} width={32} short />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </SheetTable>
        </Scroll>
      )}
      {wrong && <Wrong>{wrong}</Wrong>}
      {houseChecks.length > 0 && <CheckList checks={houseChecks} onOpen={(c) => open(c)} opened={props.opened} />}
      <AddCircuit job={job} onAdded={pick} />
      {circuit && (
        <Circuit key={circuit.id} {...props} circuit={circuit} report={all.find((c) => c.id === circuit.id)} taker={taker} onPick={pick} />
      )}
      <Section>
        <Heading aside={<SaveLine part={schools} />}>{say('Company practice, on this job')}</Heading>
        <SchoolFields part={schools as Part} practice={j.practice} />
        <LocalRules part={schools as Part} practice={j.practice} />
      </Section>
      <KeptCalcs job={job} j={j} />
      <NotYet>
        {say(
          'circuits in several phases, holes and notches drawn on the route (the calculators judge them), ' +
            'changing several circuits at once.',
        )}
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
  report: saved,
  open,
  opened,
  taker,
  onPick,
}: SheetProps & {
  circuit: Of<'Circuit'>;
  report?: Of<'CircuitReport'>;
  taker: RefObject<Taker | undefined>;
  onPick: (id: string) => void;
}) {
  const name = `circuits/${circuit.id}`;
  const real = usePart(job, name, circuit);
  const asks = useAsks(circuit.use);
  const manufacturer = useSheetAsks('conductor')('manufacturer');
  const [trying, setTrying] = useState(false);
  const [wrong, setWrong] = useState('');
  const trial = useTrial(job, name, real.value, trying);
  const part = trying ? trial.part : real;
  const report = (trying && trial.result?.report.circuits.find((c) => c.id === circuit.id)) || saved;
  const remove = useRemovePart(job.id);
  // A remedy may lie in another circuit, such as the one that feeds this one.
  const take = async (r: Of<'Remedy'>) => {
    // What is tried, or typed and not yet saved, goes with the part that it is of.
    if (trying || real.status !== 'saved') {
      if (r.sets.some((s) => s.part !== name)) {
        setWrong(say('“{{title}}” changes another circuit: save or discard what is open first.', { title: r.title }));
        return;
      }
      for (const s of r.sets) part.set(s.field as Path<Of<'Circuit'>>, s.value);
      part.commit();
      return;
    }
    try {
      await takeRemedy(job, r);
      setWrong('');
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  useEffect(() => {
    taker.current = (x) => void take(x);
  });
  const stop = () => {
    trial.drop();
    if (!trial.changed) setTrying(false);
  };
  const keepTrial = async () => {
    try {
      keep(queries, await putPart(job.id, name, job.versions[name] ?? 0, trial.part.value, newKey()));
      trial.drop();
      setTrying(false);
      setWrong('');
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  const half = (n: number) => Math.floor(n / 2);
  // A copy stands on no way yet. Splitting gives it half of what the circuit serves.
  const copy = async (split: boolean) => {
    const of = real.value;
    const { serves } = of;
    const fresh = {
      ...of,
      name: split ? say('{{name}}, second half', { name: of.name }) : say('{{name}}, copy', { name: of.name }),
      protection: { ...of.protection, way: 0 },
      serves: split
        ? {
            ...serves,
            areaM2: serves.areaM2 / 2,
            outlets: half(serves.outlets),
            powerW: serves.powerW / 2,
            spurs: [],
            boxes: halves(serves.boxes)[1],
          }
        : serves,
    };
    try {
      const id = await addCircuit(job, fresh);
      if (split) {
        real.set('serves', {
          ...serves,
          areaM2: serves.areaM2 / 2,
          outlets: serves.outlets - half(serves.outlets),
          powerW: serves.powerW / 2,
          boxes: halves(serves.boxes)[0],
        });
        real.commit();
      }
      setWrong('');
      onPick(id);
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  const decided = report?.checks.find((c) => c.rule === report.decides);
  return (
    <div data-circuit={circuit.id}>
      <Row className="no-print" style={{ margin: '10px 0 14px' }}>
        <Button disabled={job.view.frozen} aria-pressed={trying} onClick={() => (trying ? stop() : setTrying(true))}>
          {say('Try a change without saving')}
        </Button>
        <Button disabled={job.view.frozen} onClick={() => void copy(false)}>
          {say('Duplicate')}
        </Button>
        <Button disabled={job.view.frozen} onClick={() => void copy(true)}>
          {say('Split in two')}
        </Button>
        <Button disabled={job.view.frozen} onClick={() => remove.mutate({ part: name, base: job.versions[name] ?? 0 })}>
          {say('Remove')}
        </Button>
        <Quiet>{say('Undo takes each back.')}</Quiet>
        {remove.error && <Wrong>{remove.error.message}</Wrong>}
        {wrong && <Wrong>{wrong}</Wrong>}
      </Row>
      {trying && (
        <Consequences result={trial.result} error={trial.error} changed={trial.changed} onKeep={() => void keepTrial()} onDrop={stop} />
      )}
      <Section>
        <Heading aside={trying ? <Quiet>{say('only tried')}</Quiet> : <SaveLine part={real} />}>
          {say('{{name}}: cable and device', { name: part.value.name })}
        </Heading>
        <Fields style={{ marginBottom: 8 }}>
          <TextBox part={part} path="name" label={say('Name')} />
        </Fields>
        <ConductorFields part={part} cores={report?.summary.cores} />
        <div style={{ height: 10 }} />
        <DeviceFields part={part} j={j} feedsBack={!!report?.feedsBack} />
        {manufacturer && <MakerFigures part={part} />}
      </Section>
      <Section>
        <Heading aside={<Quiet>{say('a line opens its working')}</Quiet>}>{say('Checks')}</Heading>
        <CheckList checks={report?.checks ?? []} onOpen={(c) => open(c, (x) => void take(x))} opened={opened} />
      </Section>
      {report && circuit.use === 'ev' && report.options.length > 0 && <PenOptions part={part} options={report.options} check={decided} />}
      {report && circuit.out.building && report.options.length > 0 && (
        <OtherBuilding part={part} options={report.options} check={decided} />
      )}
      {report && circuit.use === 'ev' && report.operator.path !== '' && (
        <OperatorRecord
          job={job}
          circuit={circuit.id}
          rule={report.operator}
          check={report.checks.find((c) => c.rule === report.operator.rule)}
        />
      )}
      {asks('boxes') && <OutletString part={part} boxes={report?.boxes ?? []} />}
      <Section>
        <Heading>{say('What it serves')}</Heading>
        <ServesFields part={part} circuits={j.circuits} />
      </Section>
      <Section>
        <Heading>{say('The point')}</Heading>
        <PointFields part={part} />
      </Section>
      <Section>
        <Heading>{say('Route')}</Heading>
        <RouteTable part={part} lengthM={report?.summary.lengthM} />
      </Section>
      <div style={{ height: 18 }} />
    </div>
  );
}
