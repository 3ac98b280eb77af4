import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { useRef, useState, type DragEvent, type KeyboardEvent } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useChangeRun, useCircuits, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { HeadroomBar } from '../../parts/HeadroomBar';
import { Details, NotYet, P, Quiet, Scroll, SheetTable, Td, Th, Wrong } from '../../parts/layout';
import { LocalRules } from '../../parts/LocalRules';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SchoolFields } from '../../parts/SchoolFields';
import { SheetHead } from '../../parts/SheetHead';
import { useUnits } from '../../parts/units';
import type { SheetProps } from '../props';
import { AddCircuit } from './AddCircuit';
import { DemandBar } from './DemandBar';
import { KeptCalcs } from './KeptCalcs';
import type { Of } from '../../api/client';
import { boardOf } from '../board/ways';
import { inOrder, swapWays, wayOf } from './order';
import { Proposal } from './proposal/Proposal';
import { by, Taker, Circuit } from './CircuitCard';
import { end } from './run/run';

const Wide = styled('th')({ minWidth: 130 });
const Open = styled('button')({
  border: 0,
  background: 'transparent',
  font: 'inherit',
  fontWeight: 600,
  color: 'var(--copper)',
  cursor: 'pointer',
  padding: '4px 0',
  textAlign: 'left',
});

/** How far a circuit that leaves has left, in a word. */
function goes(l: Of<'Leaving'>) {
  if (!l.parted) return say('leaves, counts as live');
  return l.cleared ? say('has left') : say('proved dead, to be cleared');
}

/** Every figure of each circuit, computed while the route or the device changes. For the table, on a laptop. */
export function CircuitsSheet(props: SheetProps) {
  const { job, j, open } = props;
  const report = useCircuits(job.id);
  const bars = useTerms().data?.bars ?? [];
  const units = useUnits();
  const [search, setSearch] = useSearchParams();
  const schools = usePart(job, 'schools', j.schools);
  const [wrong, setWrong] = useState('');
  const change = useChangeRun(job.id);
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
  // A point of a run that is dropped on a circuit goes to the end of its run.
  const drop = (e: DragEvent, to: string) => {
    const [from, box] = e.dataTransfer.getData('text/plain').split('/');
    const target = j.circuits.find((x) => x.id === to);
    if (!box || !target || from === to) return;
    e.preventDefault();
    change.mutate({ do: 'move', circuit: from, to, box, ...end(target.serves) });
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
              name: j.boards.length ? say('{{n}} boards', { n: j.boards.length + 1 }) : j.board.name,
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
      {r && demand && !demand.outside && (
        <DemandBar demand={r.demand} check={demand} onOpen={() => open(demand, (x) => taker.current?.(x))} />
      )}
      {all.length > 0 && (
        <Scroll>
          <SheetTable aria-label={say('Circuits')} data-cards>
            <thead>
              <tr>
                <Th width={22} aria-label={say('Verdict')} />
                <th scope="col">{say('Way')}</th>
                <Wide scope="col">{say('Circuit')}</Wide>
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
                <tr
                  key={c.id}
                  style={c.id === circuit?.id ? { background: 'var(--wash)' } : undefined}
                  onDragOver={(e) => e.preventDefault()}
                  onDrop={(e) => drop(e, c.id)}
                >
                  <td>{!c.leaving && <Mark verdict={c.verdict} />}</td>
                  <td data-label={say('Way')}>
                    <Quiet>{wayOf(j.circuits, c.id)}</Quiet>
                  </td>
                  <td>
                    <Open type="button" aria-pressed={c.id === circuit?.id} data-row={c.id} onClick={() => pick(c.id)} onKeyDown={step}>
                      {c.name}
                    </Open>
                    <Board of={c.id} j={j} />
                  </td>
                  <Td data-whole nowrap>
                    {c.leaving ? <Quiet>{goes(c.leaving)}</Quiet> : c.summary.device || <Quiet>{say('not looked at')}</Quiet>}
                  </Td>
                  <Td nowrap>{c.summary.conductor}</Td>
                  <Td data-label={say('Length')} nowrap>
                    {c.summary.lengthM > 0 ? units.show(c.summary.lengthM, 'm') : '–'}{' '}
                    {c.summary.maxLengthM > 0 && (
                      <Quiet>
                        {say('of {{maxLengthM}}, {{governs}}', {
                          maxLengthM: Math.floor(c.summary.maxLengthM / units.m.per),
                          governs: c.summary.governs,
                        })}
                      </Quiet>
                    )}
                  </Td>
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
      {(wrong || change.error) && <Wrong>{wrong || change.error?.message}</Wrong>}
      {houseChecks.length > 0 && <CheckList checks={houseChecks} onOpen={(c) => open(c)} opened={props.opened} />}
      {!circuit && (report.data?.unplaced.length ?? 0) > 0 && (
        <p>
          <Quiet>
            {say('The walk has {{count}} points on no circuit yet: add a circuit, and put them on its run.', {
              count: report.data?.unplaced.reduce((n, u) => n + u.count, 0) ?? 0,
            })}
          </Quiet>
        </p>
      )}
      <Proposal job={job} count={report.data?.unplaced.reduce((n, u) => n + u.count, 0) ?? 0} onTaken={pick} />
      <AddCircuit job={job} onAdded={pick} />
      {circuit && (
        <Circuit
          key={circuit.id}
          {...props}
          circuit={circuit}
          report={all.find((c) => c.id === circuit.id)}
          unplaced={(circuit.state === 'removed' ? report.data?.leaving : report.data?.unplaced) ?? []}
          taker={taker}
          onPick={pick}
        />
      )}
      <Details data-practice-here>
        <summary>{say('Company practice, on this job')}</summary>
        <P around="xs">
          {say('The company’s own choices stand on its page; what is chosen here is for this job alone.')}{' '}
          <Link to="/company">{say('Prices and hours')}</Link> <SaveLine part={schools} />
        </P>
        <SchoolFields part={schools as Part} practice={j.practice} />
        <LocalRules part={schools as Part} practice={j.practice} />
      </Details>
      <KeptCalcs job={job} j={j} />
      <NotYet>{say('circuits in several phases, holes and notches drawn on the route, changing several circuits at once.')}</NotYet>
      {r && (
        <p>
          <Quiet>{r.notice}</Quiet>
        </p>
      )}
    </>
  );
}

/** The further board that a circuit stands on, by name; nothing at the main one. */
function Board({ of, j }: { of: string; j: Of<'Job'> }) {
  const c = j.circuits.find((x) => x.id === of);
  const board = c?.from && boardOf(j, c);
  return board ? <Quiet> {board.name}</Quiet> : null;
}
