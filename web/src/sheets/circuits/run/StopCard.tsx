import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState, type KeyboardEvent } from 'react';
import type { Of } from '../../../api/client';
import { useTerms } from '../../../api/job';
import { figure } from '../../../parts/figure';
import { Bad, Quiet, Row } from '../../../parts/layout';
import { say } from '../../../words/words';
import { called, label, step } from './run';
import { StopDetails, type StopProps } from './StopDetails';

const Card = styled('li', { shouldForwardProp: (n) => n !== 'lane' })<{ lane: number }>(({ lane }) => ({
  border: '1px solid var(--rule2)',
  background: 'var(--sheet)',
  padding: '4px 10px',
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) auto',
  gap: '0 10px',
  alignItems: 'center',
  marginLeft: Math.min(lane, 4) * 18,
  '&:focus-within, &:hover': { borderColor: 'var(--copper)' },
}));
const Head = styled('button')({
  display: 'flex',
  flexWrap: 'wrap',
  gap: '0 10px',
  alignItems: 'baseline',
  width: '100%',
  border: 0,
  background: 'transparent',
  font: 'inherit',
  color: 'inherit',
  textAlign: 'left',
  cursor: 'pointer',
  padding: '3px 0',
  '@media (max-width:700px)': { minHeight: 44 },
});
const Tag = styled('b')({ fontVariantNumeric: 'tabular-nums', border: '1px solid var(--ink)', padding: '0 5px', fontSize: '.86em' });
const Worst = styled('b')({ color: 'var(--ochre)' });
const Across = styled('div')({ gridColumn: '1 / -1' });
const Go = styled(Button)({ minWidth: 32, padding: '0 6px', '@media (max-width:700px)': { minWidth: 44, minHeight: 44 } });

/** One point of a run: its tag, what it is, its figures in a line, and what moves it. */
export function StopCard({ onDrag, ...props }: StopProps & { onDrag: (on: boolean) => void }) {
  const { row, circuit, stop, frozen, act } = props;
  const [open, setOpen] = useState(false);
  const { box } = row;
  const { serves } = circuit;
  const move = (by: -1 | 1) => {
    const spot = step(serves, row, by);
    if (spot && !frozen) act({ do: 'move', box: box.id, ...spot });
  };
  const key = (e: KeyboardEvent) => {
    const by = e.key === 'ArrowUp' ? -1 : e.key === 'ArrowDown' ? 1 : 0;
    if (!by) return;
    e.preventDefault();
    if (e.altKey) move(by);
    else {
      const all = [...(e.currentTarget.closest('ol')?.querySelectorAll<HTMLElement>('[data-stop]') ?? [])];
      all[all.indexOf(e.currentTarget as HTMLElement) + by]?.focus();
    }
  };
  const device = useTerms().data?.boxDevices.find((d) => d.id === box.device)?.name ?? '';
  return (
    <Card
      lane={row.lane}
      draggable={!frozen}
      onDragStart={(e) => {
        e.dataTransfer.setData('text/plain', `${circuit.id}/${box.id}`);
        onDrag(true);
      }}
      onDragEnd={() => onDrag(false)}
    >
      <Head type="button" data-stop={box.id} aria-expanded={open} onClick={() => setOpen(!open)} onKeyDown={key}>
        {box.tag > 0 && <Tag>{label(box)}</Tag>}
        <span>
          <b>{box.name}</b> {!box.point && <Quiet>{device}</Quiet>}
        </span>
        {stop && <Figures stop={stop} />}
      </Head>
      <Row className="no-print" gap="s">
        <Go
          disabled={frozen || !step(serves, row, -1)}
          onClick={() => move(-1)}
          aria-label={say('Move {{name}} towards the board', { name: called(box) })}
        >
          ↑
        </Go>
        <Go
          disabled={frozen || !step(serves, row, 1)}
          onClick={() => move(1)}
          aria-label={say('Move {{name}} away from the board', { name: called(box) })}
        >
          ↓
        </Go>
      </Row>
      {stop?.astray && (
        <Across>
          <Bad>{stop.astray}</Bad>
        </Across>
      )}
      {open && (
        <Across>
          <StopDetails {...props} />
        </Across>
      )}
    </Card>
  );
}

const short = (v: number, unit = '') => figure(Number(v.toPrecision(3)), unit);

/** The figures at a point in a line. */
function Figures({ stop }: { stop: Of<'StopReport'> }) {
  const said = [
    stop.r1r2 !== null && say('R1+R2 {{ohm}}', { ohm: short(stop.r1r2, 'Ω') }),
    stop.zsHot !== null && say('Zs {{ohm}}', { ohm: short(stop.zsHot, 'Ω') }),
    stop.dropPc !== null && say('drop {{pc}} %', { pc: short(stop.dropPc) }),
    stop.faultA !== null && say('fault {{a}}', { a: short(stop.faultA, 'A') }),
  ].filter(Boolean);
  return (
    <>
      <Quiet>{said.length > 0 ? said.join(' · ') : say('figures not known')}</Quiet>
      {stop.worst && <Worst>{say('highest loop of the circuit')}</Worst>}
    </>
  );
}
