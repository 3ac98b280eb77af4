import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { newKey } from '../../api/client';
import { keep, putPart, queries } from '../../api/job';
import { figure } from '../../parts/figure';
import { Heading, P, Quiet, Row, Section, Td, Wrong } from '../../parts/layout';
import { partOfBoard } from './ways';

const Leg = styled('th')({ textAlign: 'left', width: 60 });
const Bar = styled('svg')({ width: '100%', height: 14, display: 'block' });
const LegTable = styled('table')({ width: '100%', maxWidth: 620 });

/** The load on each leg, what the neutral carries, and the moves that would even it out. */
export function LegsDrawing({ legs, job, j, board }: { legs: Of<'Legs'>; job: Of<'JobView'>; j: Of<'Job'>; board: Of<'Board'> }) {
  const [wrong, setWrong] = useState('');
  const [busy, setBusy] = useState(false);
  const most = Math.max(legs.a, legs.b, 1);
  // A circuit of this job is moved by its own part, what was there by the board.
  const move = async (m: Of<'Move'>) => {
    setBusy(true);
    try {
      if (m.circuit) {
        const c = j.circuits.find((x) => x.id === m.circuit);
        if (!c) return;
        const part = `circuits/${c.id}`;
        keep(queries, await putPart(job.id, part, job.versions[part] ?? 0, { ...c, protection: { ...c.protection, way: m.to } }, newKey()));
      } else {
        const part = partOfBoard(board);
        const ways = board.ways.map((w) => {
          const of = (no: number) => board.ways.find((x) => x.no === no) ?? w;
          if (w.no === m.to) return { ...of(m.from), no: m.to };
          if (w.no === m.from) return { ...of(m.to), no: m.from };
          return w;
        });
        keep(queries, await putPart(job.id, part, job.versions[part] ?? 0, { ...board, ways }, newKey()));
      }
      setWrong('');
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e));
    }
    setBusy(false);
  };
  const bar = (name: string, amps: number, after: number) => (
    <tr>
      <Leg scope="row">{name}</Leg>
      <Td width={80}>{figure(amps, 'A')}</Td>
      <td>
        <Bar viewBox="0 0 400 14" preserveAspectRatio="none" aria-hidden="true">
          <rect width="400" height="14" fill="var(--wash)" />
          <rect width={(amps / most) * 380} height="14" fill="var(--verdigris)" />
          {legs.moves.length > 0 && <rect x={(after / most) * 380 - 1.5} width="3" height="14" fill="var(--ink)" />}
        </Bar>
      </td>
    </tr>
  );
  return (
    <Section>
      <Heading aside={<Quiet>{say('with everything on{{x}}', { x: legs.moves.length > 0 ? say(' · line: after the moves') : '' })}</Quiet>}>
        {say('Load on the legs')}
      </Heading>
      <LegTable aria-label={say('Load on the legs')}>
        <tbody>
          {bar(say('Leg A'), legs.a, legs.afterA)}
          {bar(say('Leg B'), legs.b, legs.afterB)}
        </tbody>
      </LegTable>
      <P around="xs">
        {say('The neutral carries {{neutralA}}.', { neutralA: figure(legs.neutralA, 'A') })}
        {legs.unknown > 0 && <Quiet> {say('{{unknown}} spaces have no load noted.', { unknown: legs.unknown })}</Quiet>}
      </P>
      {legs.moves.map((m) => (
        <Row key={`${m.name}${m.from}`} pad="xs">
          <span>
            {say('Move')} <b>{m.name}</b> {say('from {{from}} to {{to}}', { from: m.from, to: m.to })}
          </span>
          <Button disabled={busy || job.view.frozen} onClick={() => void move(m)}>
            {say('Take it')}
          </Button>
        </Row>
      ))}
      {wrong && <Wrong>{wrong}</Wrong>}
    </Section>
  );
}
