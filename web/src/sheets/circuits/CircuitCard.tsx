import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useEffect, useState, type RefObject } from 'react';
import { newKey, type Of } from '../../api/client';
import { keep, putPart, queries, useAsks, useChangeRun, useRemovePart, useSheetAsks } from '../../api/job';
import { usePart } from '../../api/part';
import type { Path } from '../../api/paths';
import { takeRemedy } from '../../api/take';
import { useTrial } from '../../api/trial';
import { CheckList } from '../../parts/CheckList';
import { Block, Heading, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import type { SheetProps } from '../props';
import { addCircuit } from './add';
import { ConductorFields } from './ConductorFields';
import { Consequences } from './Consequences';
import { DeviceFields } from './DeviceFields';
import { MakerFigures } from './MakerFigures';
import { OperatorRecord } from './OperatorRecord';
import { OtherBuilding } from './OtherBuilding';
import { OutletString } from './OutletString';
import { PenOptions } from './PenOptions';
import { PointFields } from './PointFields';
import { GroundMarks } from '../../parts/GroundMarks';
import { RouteTable } from './RouteTable';
import { RunSection } from './run/RunSection';
import { ServesFields } from './ServesFields';
import { Leaving } from './Leaving';
import { StateFields } from './StateFields';

/** The check of an id in the report of a circuit, as far as the job is about it. */
export const by = (c: Of<'CircuitReport'>, id: string) => c.checks.find((k) => k.id === id && !k.outside);

/** Takes a remedy. */
export type Taker = (r: Of<'Remedy'>) => void;

/** One circuit: its fields beside its checks, with what would mend those that fail. */
export function Circuit({
  job,
  j,
  circuit,
  report: saved,
  open,
  opened,
  unplaced,
  taker,
  onPick,
}: SheetProps & {
  unplaced: Of<'Unplaced'>[];
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
  const run = useChangeRun(job.id);
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
  // A copy stands on no way yet, and its run is of no points of the walk: each stands on one run. Splitting gives it half of what
  // is counted; a run is split at one of its points.
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
          }
        : { ...serves, boxes: serves.boxes.map((b) => ({ ...b, tag: 0, room: '', point: '' })) },
    };
    try {
      const id = await addCircuit(job, fresh);
      if (split) {
        real.set('serves', {
          ...serves,
          areaM2: serves.areaM2 / 2,
          outlets: serves.outlets - half(serves.outlets),
          powerW: serves.powerW / 2,
        });
        real.commit();
      }
      setWrong('');
      onPick(id);
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
  };
  const leaving = report?.leaving;
  const decided = report?.checks.find((c) => c.rule === report.decides);
  return (
    <div data-circuit={circuit.id}>
      <Row className="no-print" around="m">
        <Button disabled={job.view.frozen} aria-pressed={trying} onClick={() => (trying ? stop() : setTrying(true))}>
          {say('Try a change without saving')}
        </Button>
        <Button disabled={job.view.frozen} onClick={() => void copy(false)}>
          {say('Duplicate')}
        </Button>
        {circuit.serves.boxes.length === 0 && (
          <Button disabled={job.view.frozen} onClick={() => void copy(true)}>
            {say('Split in two')}
          </Button>
        )}
        <Button disabled={job.view.frozen} onClick={() => remove.mutate({ part: name, base: job.versions[name] ?? 0 })}>
          {say('Remove')}
        </Button>
        <Quiet>{say('Undo takes each back.')}</Quiet>
        {run.error && <Wrong>{run.error.message}</Wrong>}
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
        <StateFields part={part} />
        <ConductorFields part={part} cores={report?.summary.cores} />
        <Block above="m" />
        <DeviceFields part={part} j={j} feedsBack={!!report?.feedsBack} />
        {manufacturer && <MakerFigures part={part} />}
      </Section>
      {leaving && <Leaving circuit={circuit} leaving={leaving} />}
      {!leaving && (
        <Section>
          <Heading aside={<Quiet>{say('a line opens its working')}</Quiet>}>{say('Checks')}</Heading>
          <CheckList checks={report?.checks ?? []} onOpen={(c) => open(c, (x) => void take(x))} opened={opened} />
        </Section>
      )}
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
      {!trying && <RunSection job={job} circuit={circuit} circuits={j.circuits} part={real} report={saved} unplaced={unplaced} />}
      {asks('boxes') && (
        <OutletString
          part={part}
          boxes={report?.boxes ?? []}
          off={trying ? undefined : (box) => run.mutate({ do: 'off', circuit: circuit.id, box })}
        />
      )}
      <Section>
        <Heading>{say('What it serves')}</Heading>
        <ServesFields part={part} j={j} drawn={report?.drawn} />
      </Section>
      {!leaving && (
        <>
          <Section>
            <Heading>{say('The point')}</Heading>
            <PointFields part={part} drawn={report?.drawn} />
          </Section>
          <Section>
            <Heading>{say('Route')}</Heading>
            <RouteTable part={part} lengthM={report?.summary.lengthM} />
            <GroundMarks job={job.id} part={part} path="route.marks" of={(k) => k.circuit === circuit.id} open={open} opened={opened} />
          </Section>
        </>
      )}
      <Block above="l" />
    </div>
  );
}
