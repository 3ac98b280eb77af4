import { styled } from '@mui/material/styles';
import { P } from '../../parts/layout';
import { say } from '../../words/words';
import { useMediaQuery } from '@mui/material';
import type { Of } from '../../api/client';
import { figure } from '../../parts/figure';
import { verdictInk } from '../../parts/Mark';
import { useUnits } from '../../parts/units';
import type { BoardNode } from './boardNodes';

const Sideways = styled('div')({ overflowX: 'auto', maxWidth: '100%' });
const Drawn = styled('svg')({ display: 'block', fontFamily: 'inherit' });
const Pressed = styled('g')({ cursor: 'pointer' });

const box = { w: 156, h: 92 };
const gap = { along: 66, across: 18 };

interface Placed {
  id: string;
  from: string;
  e?: Of<'Enclosure'>;
  n?: Of<'ChainNode'>;
  b?: BoardNode; // the board that it is
  depth: number;
  lane: number;
}

/** Lays the tree out: depth from the operator's end, a lane for every branch. */
function place(chain: Of<'Chain'>, nodes: Of<'ChainNode'>[], boards: BoardNode[]): Placed[] {
  const all = [
    ...chain.enclosures.map((e) => ({ id: e.id, from: e.from, e, b: boards.find((b) => !b.own && b.at === e.id) })),
    ...boards.filter((b) => b.own).map((b) => ({ id: `board:${b.id}`, from: b.at, e: undefined, b })),
  ];
  const out: Placed[] = [];
  let lane = 0;
  const walk = (from: string, depth: number) => {
    all
      .filter((x) => x.from === from && !out.some((o) => o.id === x.id))
      .forEach((x, i) => {
        if (i > 0) lane++;
        out.push({ ...x, n: nodes.find((n) => n.id === x.id), depth, lane });
        walk(x.id, depth + 1);
      });
  };
  walk('', 0);
  return out;
}

const cut = (s: string, n: number) => (s.length > n ? `${s.slice(0, n - 1)}…` : s);

/**
 * The supply from the operator's cable to the last board, drawn: what is sealed, where neutral and earth are
 * joined and where they must not be.
 */
export function ChainDrawing({
  chain,
  report,
  selected,
  onSelect,
  unit,
  boards = [],
  onBoard = () => {},
}: {
  chain: Of<'Chain'>;
  report?: Of<'ChainReport'>;
  selected?: string;
  onSelect: (id: string) => void;
  unit: string;
  boards?: BoardNode[];
  onBoard?: (id: string) => void;
}) {
  const upright = useMediaQuery('(max-width:700px)', { noSsr: true });
  const units = useUnits();
  const placed = place(chain, report?.nodes ?? [], boards);
  const depth = Math.max(0, ...placed.map((p) => p.depth));
  const lanes = Math.max(0, ...placed.map((p) => p.lane));
  const stepAlong = (upright ? box.h : box.w) + gap.along;
  const stepAcross = (upright ? box.w : box.h) + gap.across;
  const at = (p: Placed) =>
    upright ? { x: 2 + p.lane * stepAcross, y: 2 + p.depth * stepAlong } : { x: 2 + p.depth * stepAlong, y: 2 + p.lane * stepAcross };
  const width = upright ? (lanes + 1) * stepAcross : (depth + 1) * stepAlong - gap.along + 6;
  const height = upright ? (depth + 1) * stepAlong - gap.along + 6 : (lanes + 1) * stepAcross;
  return (
    <Sideways>
      <Drawn width={width} height={height} role="group" aria-label={say('Supply arrangement')}>
        {placed.map((p) => {
          const from = placed.find((o) => o.id === p.from);
          if (!from) return null;
          const a = at(from);
          const b = at(p);
          const [x1, y1, x2, y2] = upright
            ? [a.x + box.w / 2, a.y + box.h, b.x + box.w / 2, b.y]
            : [a.x + box.w, a.y + box.h / 2, b.x, b.y + box.h / 2];
          const mid = upright ? (y1 + y2) / 2 : (x1 + x2) / 2;
          const { size, length } = feedOf(p, units);
          return (
            <g key={p.id}>
              <polyline
                points={upright ? `${x1},${y1} ${x1},${mid} ${x2},${mid} ${x2},${y2}` : `${x1},${y1} ${mid},${y1} ${mid},${y2} ${x2},${y2}`}
                fill="none"
                stroke="var(--copper)"
                strokeWidth={3}
              />
              <text
                x={upright ? x2 + 8 : mid}
                y={upright ? y2 - gap.along / 2 + 14 : y2 - 8}
                fontSize={11.5}
                fill="var(--ink2)"
                textAnchor={upright ? 'start' : 'middle'}
              >
                {size}
              </text>
              <text
                x={upright ? x2 + 8 : mid}
                y={upright ? y2 - gap.along / 2 + 28 : y2 + 16}
                fontSize={11.5}
                fill="var(--ink2)"
                textAnchor={upright ? 'start' : 'middle'}
              >
                {length}
              </text>
            </g>
          );
        })}
        {placed.map((p) => {
          const { x, y } = at(p);
          if (!p.e) return p.b && <BoardBox key={p.id} b={p.b} x={x} y={y} onOpen={onBoard} />;
          const e = p.e;
          return <EnclosureBox key={p.id} e={e} n={p.n} b={p.b} x={x} y={y} selected={selected === e.id} onSelect={() => onSelect(e.id)} />;
        })}
      </Drawn>
      <P around="xs" small quiet>
        {say('Shaded: not the customer’s. Broken outline: put in by this job. Sizes in {{unit}}. The two bars are neutral and', {
          unit,
        })}{' '}
        {report?.earth}
        {say(': bridged where they are joined, apart where they are not.')}
      </P>
    </Sideways>
  );
}

/** How what feeds a node is drawn: size and length of its conductor. */
function feedOf(p: Placed, units: ReturnType<typeof useUnits>): { size: string; length: string } {
  if (!p.e) {
    const c = p.b?.feed;
    return { size: c ? figure(c.protection.ratingA, 'A') : '', length: '' };
  }
  const f = p.e.feed;
  return {
    size: f.size ? `${f.material === 'al' ? 'Al' : 'Cu'} ${f.size}` : 'size?',
    length: f.lengthM.value ? units.show(f.lengthM.value, 'm') : 'length?',
  };
}

/** A board that a circuit of the job feeds; it opens on the Board sheet. */
function BoardBox({ b, x, y, onOpen }: { b: BoardNode; x: number; y: number; onOpen: (id: string) => void }) {
  return (
    <Pressed
      transform={`translate(${x},${y})`}
      role="button"
      tabIndex={0}
      data-board-node={b.id || 'main'}
      onClick={() => onOpen(b.id)}
      onKeyDown={(k) => (k.key === 'Enter' || k.key === ' ') && (k.preventDefault(), onOpen(b.id))}
    >
      <rect width={box.w} height={box.h} fill="var(--sheet)" stroke="var(--ink)" strokeDasharray={b.new ? '6 3' : undefined} />
      <line x1={0} x2={box.w} y1={42} y2={42} stroke="var(--rule2)" />
      <text x={8} y={18} fontSize={13} fontWeight={700} fill="var(--ink)">
        {cut(b.name, 19)}
      </text>
      <text x={8} y={34} fontSize={11.5} fill="var(--ink2)">
        {b.feed ? cut(b.feed.name, 25) : say('board')}
      </text>
      <text x={8} y={62} fontSize={11.5} fill="var(--ink2)">
        {say('{{n}} circuits', { n: b.circuits })}
      </text>
      <text x={8} y={80} fontSize={11.5} fill="var(--ink2)">
        {say('{{n}} ways', { n: b.ways })}
      </text>
    </Pressed>
  );
}

/** An enclosure of the supply arrangement. */
function EnclosureBox({
  e,
  n,
  b,
  x,
  y,
  selected,
  onSelect,
}: {
  e: Of<'Enclosure'>;
  n?: Of<'ChainNode'>;
  b?: BoardNode;
  x: number;
  y: number;
  selected: boolean;
  onSelect: () => void;
}) {
  const mine = e.owner === 'customer';
  const wrong = n && n.verdict === 'fail';
  return (
    <Pressed
      transform={`translate(${x},${y})`}
      role="button"
      tabIndex={0}
      aria-pressed={selected}
      data-enclosure={e.id}
      data-verdict={n?.verdict}
      onClick={onSelect}
      onKeyDown={(k) => (k.key === 'Enter' || k.key === ' ') && (k.preventDefault(), onSelect())}
    >
      <rect
        width={box.w}
        height={box.h}
        fill={mine ? 'var(--sheet)' : 'var(--wash)'}
        stroke={selected ? 'var(--copper)' : wrong ? 'var(--brick)' : 'var(--ink)'}
        strokeWidth={selected || wrong ? 2.5 : 1}
        strokeDasharray={e.new ? '6 3' : undefined}
      />
      <text x={8} y={18} fontSize={13} fontWeight={700} fill="var(--ink)">
        {cut(e.name, 19)}
      </text>
      <text x={8} y={34} fontSize={11.5} fill="var(--ink2)">
        {cut(
          [b ? say('{{n}} circuits', { n: b.circuits }) : say(e.owner) || 'owner?', e.ratingA.value ? figure(e.ratingA.value, 'A') : '']
            .filter(Boolean)
            .join(' · '),
          25,
        )}
      </text>
      <Joint x={8} y={48} joined={e.joined} n={n} />
      {e.sealed === 'yes' && <Seal x={box.w - 22} y={8} />}
      <text x={8} y={84} fontSize={11} fill={n ? verdictInk(n.verdict) : 'var(--ink2)'} fontWeight={600}>
        {n?.zOhm !== null && n?.zOhm !== undefined
          ? `${figure(n.zOhm, 'Ω')}${n.faultKA ? ` · ${figure(n.faultKA, 'kA')}` : ''}${n.assumed ? ' ◐' : ''}`
          : n?.faultKA
            ? figure(n.faultKA, 'kA')
            : ''}
      </text>
    </Pressed>
  );
}

export function jointWords(e: Of<'Enclosure'>, n?: Of<'ChainNode'>, earth = 'earth'): string {
  const found = e.joined === true ? 'joined' : e.joined === false ? 'apart' : say('not looked at');
  if (!n || n.joint === 'operator') return say('neutral and {{earth}}: the operator’s', { earth });
  const must =
    n.joint === 'must' ? say('to be joined here') : n.joint === 'may' ? say('joined only while islanded') : say('never joined here');
  return say('neutral and {{earth}} {{found}}, {{must}}', { earth, found, must });
}

/** Two bars for neutral and earth, bridged when they are joined. */
function Joint({ x, y, joined, n }: { x: number; y: number; joined?: boolean | null; n?: Of<'ChainNode'> }) {
  const words =
    !n || n.joint === 'operator'
      ? say('operator’s')
      : joined === true
        ? n.joint === 'never'
          ? say('joined: must not be')
          : 'joined'
        : joined === false
          ? n.joint === 'must'
            ? say('apart: must be joined')
            : 'apart'
          : n.joint === 'must'
            ? say('join here')
            : say('keep apart');
  const ink = n && n.verdict === 'fail' ? 'var(--brick)' : 'var(--ink)';
  return (
    <g transform={`translate(${x},${y})`}>
      <line x1={0} y1={3} x2={30} y2={3} stroke="var(--ink)" strokeWidth={2.5} />
      <line x1={0} y1={15} x2={30} y2={15} stroke="var(--verdigris)" strokeWidth={2.5} />
      {joined === true && <line x1={15} y1={3} x2={15} y2={15} stroke={ink} strokeWidth={4} />}
      {joined !== true && n?.joint === 'must' && <line x1={15} y1={3} x2={15} y2={15} stroke={ink} strokeWidth={2} strokeDasharray="2 2" />}
      <text x={38} y={13} fontSize={11.5} fill={ink} fontWeight={600}>
        {words}
      </text>
    </g>
  );
}

function Seal({ x, y }: { x: number; y: number }) {
  return (
    <g transform={`translate(${x},${y})`} role="img" aria-label={say('sealed')}>
      <circle cx={7} cy={7} r={6} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
      <path d="M3 7h8M7 3v8" stroke="var(--ink)" strokeWidth={1.4} />
    </g>
  );
}
