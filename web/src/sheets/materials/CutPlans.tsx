import { Button, LinearProgress } from '@mui/material';
import type { Of } from '../../api/client';
import { stopCuts, useCuts } from '../../api/cuts';
import { figure } from '../../parts/figure';
import { Block, Heading, P, Quiet, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { say } from '../../words/words';

/** What is cut from which drum, in the order in which it is pulled, with the marks of both ends. */
export function CutPlans({ job }: { job: Of<'JobView'> }) {
  const { data, isPending, isFetching, error, refetch } = useCuts(job.id);
  if (error) return <Wrong>{error.message}</Wrong>;
  if (isPending) return <p>{say('Computing …')}</p>;
  if (data.done && !data.plans.length) return <p>{say('Nothing is cut: no cable is on the list.')}</p>;
  return (
    <>
      {!data.done && <Looking cuts={data} looks={isFetching} onStop={() => stopCuts(job.id)} onLook={() => void refetch()} />}
      {data.plans.map((p) => (
        <Plan key={p.product} plan={p} />
      ))}
    </>
  );
}

/** How far the search for better plans is, with a way to leave it at the best so far. */
function Looking({ cuts, looks, onStop, onLook }: { cuts: Of<'CutsSheet'>; looks: boolean; onStop: () => void; onLook: () => void }) {
  const now = cuts.plans[cuts.at];
  return (
    <Block role="status" below="l" data-looking>
      {looks && now && (
        <P around="xs">
          {say('Looking at {{n}} of {{of}}: {{name}}. {{bought}} so far; no plan takes less than {{bound}}.', {
            n: cuts.at + 1,
            of: cuts.plans.length,
            name: now.name,
            bought: figure(now.bought, now.unit),
            bound: figure(now.bound, now.unit),
          })}
        </P>
      )}
      {looks ? (
        <LinearProgress
          variant="determinate"
          value={(100 * cuts.at) / Math.max(cuts.plans.length, 1)}
          aria-label={say('Looking for better cut plans')}
        />
      ) : (
        <P around="xs">{say('Stopped: these are the best cut plans so far.')}</P>
      )}
      <Button size="small" variant="outlined" onClick={looks ? onStop : onLook} sx={{ mt: 1 }}>
        {looks ? say('Take the best so far') : say('Look for better ones')}
      </Button>
    </Block>
  );
}

function Plan({ plan: p }: { plan: Of<'CutPlan'> }) {
  const buy = p.buy.map((b) => `${b.count} × ${figure(b.length, p.unit)}`).join(' + ');
  return (
    <Section data-plan={p.product}>
      <Heading
        aside={
          !p.lacks && (
            <span>
              {p.bought > 0 ? say('buy {{buy}}', { buy }) : say('all of it from what is on site')}
              {p.exact && ` · ${say('nothing less can be bought')}`}
            </span>
          )
        }
      >
        {p.name}
      </Heading>
      {p.lacks && <Quiet block>{p.lacks}</Quiet>}
      {!p.lacks && (
        <Quiet block>
          {p.exact
            ? say('{{bought}} is the least. The longest cut first from the largest drum takes {{hand}}.', {
                bought: figure(p.bought, p.unit),
                hand: figure(p.hand, p.unit),
              })
            : say('{{bought}}; no plan takes less than {{bound}}. The longest cut first from the largest drum takes {{hand}}.', {
                bought: figure(p.bought, p.unit),
                bound: figure(p.bound, p.unit),
                hand: figure(p.hand, p.unit),
              })}
        </Quiet>
      )}
      {p.bars.map((b, i) => (
        <Bar key={i} bar={b} unit={p.unit} no={i + 1} />
      ))}
      {p.measure.length > 0 && <Worth plan={p} />}
    </Section>
  );
}

/** One drum: its cuts from the free end on, then what is left of it. */
function Bar({ bar: b, unit, no }: { bar: Of<'CutBar'>; unit: string; no: number }) {
  return (
    <Block above="m">
      <b>
        {b.bought
          ? say('{{no}}. Drum or coil of {{length}}', { no, length: figure(b.length, unit) })
          : say('{{no}}. Piece on site, {{length}}', { no, length: figure(b.length, unit) })}
      </b>
      <svg viewBox={`0 0 ${b.length} 6`} preserveAspectRatio="none" width="100%" height="12" role="img" aria-label={say('how it is cut')}>
        {b.cuts.map((c, i) => (
          <rect
            key={i}
            x={c.start}
            width={c.end - c.start}
            height="6"
            fill={c.assumed ? 'var(--sheet)' : 'var(--copper)'}
            stroke="var(--ink)"
            strokeWidth={0.5}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <Scroll>
        <SheetTable data-cards aria-label={say('Cuts')}>
          <thead>
            <tr>
              <th scope="col">{say('Pull')}</th>
              <th scope="col">{say('From')}</th>
              <th scope="col">{say('To')}</th>
              <th scope="col" className="num">
                {say('Cut')}
              </th>
              <th scope="col" className="num">
                {say('Marks on the drum')}
              </th>
            </tr>
          </thead>
          <tbody>
            {together(b.cuts).map(({ cut: c, first, n }) => (
              <tr key={first}>
                <td data-whole>
                  {n > 1 ? `${first}–${first + n - 1}` : first}. {c.for}
                  {c.share && <Quiet> {say('equal parts: nobody knows its legs yet')}</Quiet>}
                </td>
                <td data-label={say('From')}>{c.from || '–'}</td>
                <td data-label={say('To')}>{c.to || '–'}</td>
                <td className="num" data-label={say('Cut')}>
                  {c.assumed && '◐ '}
                  {n > 1 && `${n} × `}
                  {figure(c.length, unit)}
                </td>
                <td className="num" data-label={say('Marks on the drum')}>
                  {figure(c.start)} – {figure(c.end, unit)}
                </td>
              </tr>
            ))}
            <tr>
              <td data-whole>{say('left over')}</td>
              <td />
              <td />
              <td className="num">{figure(b.left, unit)}</td>
              <td />
            </tr>
          </tbody>
        </SheetTable>
      </Scroll>
    </Block>
  );
}

/** The cuts of a drum, equal parts of one run that follow each other as one row. */
function together(cuts: Of<'Cut'>[]) {
  const rows: { cut: Of<'Cut'>; first: number; n: number }[] = [];
  cuts.forEach((c, i) => {
    const last = rows.at(-1);
    if (last && c.share && last.cut.share && last.cut.for === c.for && last.cut.length === c.length) {
      rows[rows.length - 1] = { ...last, cut: { ...last.cut, end: c.end }, n: last.n + 1 };
    } else rows.push({ cut: c, first: i + 1, n: 1 });
  });
  return rows;
}

/** What measuring the longest lengths that nobody measured would decide. */
function Worth({ plan: p }: { plan: Of<'CutPlan'> }) {
  return (
    <Block above="m" data-measure>
      <b>{say('What measuring would settle')}</b>
      {p.measure.map((m, i) => (
        <P key={i} around="xs">
          {say('{{for}}, {{from}} to {{to}}, {{length}} not measured:', {
            for: m.for,
            from: m.from || '–',
            to: m.to || '–',
            length: figure(m.length, p.unit),
          })}{' '}
          {m.longer === null
            ? say('no length that is sold holds it if it is a tenth longer.')
            : m.shorter === m.longer && m.longer === p.bought
              ? say('a tenth more or less changes nothing that is bought.')
              : say('{{shorter}} is bought if it is a tenth shorter, {{longer}} if it is a tenth longer.', {
                  shorter: figure(m.shorter, p.unit),
                  longer: figure(m.longer, p.unit),
                })}
        </P>
      ))}
    </Block>
  );
}
