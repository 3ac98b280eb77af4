import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { useJobStock } from '../../api/stock';
import { useFrame } from '../../frame/Shell';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, NumberBox } from '../../parts/fields';
import { figure, money } from '../../parts/figure';
import { Aside, Block, Fixed, Heading, P, Quiet, Row, Section } from '../../parts/layout';
import { mapRows } from '../../parts/mapRows';
import { Mark } from '../../parts/Mark';
import { OneOf } from '../../parts/OneOf';
import { SaveLine } from '../../parts/SaveLine';
import { SheetLink } from '../../parts/SheetLink';
import { msg, say } from '../../words/words';
import { Asks } from './Asks';
import { ByAsker } from './ByAsker';
import { groupName } from './groups';

const Short = styled('div')({ color: 'var(--brick)', fontWeight: 600 });

const empty: Of<'Stock'> = { ordered: 0, delivered: 0, returned: 0, lengths: '', due: '', note: '' };

type Line = Of<'TakeLine'>;

const keyOf = (l: Line) => l.key;
const unitOfLine = (l: Line) => l.unit;
const groupOf = (l: Line) => groupName(l.group);

interface ItemProps {
  line: Line;
  job: Of<'JobView'>;
  part: Part<Of<'Materials'>>;
  said: boolean; // why it is held stands with another line already
}

/** What is to be had, who asks for it, what keeps it from being ordered, and what is wrong with what came. */
function Item({ line: l, job, part, said }: ItemProps) {
  return (
    <>
      {l.name} {l.assumed && <span title={say('rests on something assumed')}>◐</span>}
      <Asks job={job} line={l} part={part} />
      {l.taken > 0 && <Quiet block>{say('{{taken}} out of our stock', { taken: figure(l.taken, l.unit) })}</Quiet>}
      {l.placed > 0 && <Quiet block>{say('{{placed}} ordered of the merchant', { placed: figure(l.placed, l.unit) })}</Quiet>}
      {l.remark && <div>{l.remark}</div>}
      {l.trouble && <Short>{l.trouble}</Short>}
      {l.held && (
        <Short data-held={l.key}>
          {l.free > 0 && say('{{free}} may be ordered.', { free: figure(l.free, l.unit) })}{' '}
          {said ? say('The rest is held for the same reason.') : l.held.why} <SheetLink job={job.id} at={l.held} />
        </Short>
      )}
    </>
  );
}

/** The order list of the whole job: what to order, by which rule and for whom, what came and what is short. */
export function OrderList({ job, part }: { job: Of<'JobView'>; part: Part<Of<'Materials'>> }) {
  const { me } = useFrame();
  const [by, setBy] = useState<'product' | 'place'>('product');
  const take = job.view.take;
  const finishes = useTerms().data?.survey.finishes ?? [];
  const stock = (l: Line): Of<'Stock'> => part.value.lines[l.key] ?? l;
  const rows = take.lines.map((l): Line => ({ ...l, ...pick(stock(l)) }));
  const saidBefore = (l: Line) => take.lines.find((o) => o.held?.why === l.held?.why)?.key !== l.key;
  const all = (field: 'ordered' | 'delivered') =>
    part.save('lines', {
      ...part.value.lines,
      ...Object.fromEntries(
        take.lines.map((l) => {
          const was = pick(stock(l));
          if (field === 'ordered') return [l.key, { ...was, ordered: Math.max(was.ordered, l.free - l.placed) }];
          const came = was.ordered + l.placed || l.order;
          return [l.key, { ...was, delivered: came, ...(l.byLength && !was.lengths && came > 0 && { lengths: String(came) }) }];
        }),
      ),
    });
  return (
    <>
      {take.gaps.length > 0 && (
        <Section>
          <Heading>{say('Not on the list yet')}</Heading>
          <Quiet block>
            {say('The job takes this, and it cannot be counted until it is known. Nobody calls the parts complete before.')}
          </Quiet>
          {take.gaps.map((g, i) => (
            <Row key={i} ruled pad="xs" data-gap>
              <Mark verdict="unknown" label={say('not counted')} /> <span>{g.what}</span> <SheetLink job={job.id} at={g} />
            </Row>
          ))}
        </Section>
      )}
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('Order list')}</Heading>
        <InStock job={job} />
        <Row below="m">
          <Fixed least={170}>
            <NumberBox part={part} path="wastagePc" label={say('Added to cable for waste')} unit="%" />
          </Fixed>
          <Fixed least={150}>
            <ChoiceBox
              part={part}
              path="finish"
              label={say('Finish of the plates')}
              options={finishes}
              empty={say('white, unless a room says')}
            />
          </Fixed>
          <Button className="no-print" disabled={part.frozen || !take.lines.length} onClick={() => all('ordered')}>
            {say('All ordered')}
          </Button>
          <Button className="no-print" disabled={part.frozen || !take.lines.length} onClick={() => all('delivered')}>
            {say('All delivered as ordered, each length in one piece')}
          </Button>
          <a href={`/api/jobs/${job.id}/order.json`} download className="no-print">
            {say('Order for the merchant (JSON)')}
          </a>
          <Aside>
            {take.total !== null ? (
              <>
                {say('Material')} <b>{money(take.total, me.currency)}</b> {say('net')}
              </>
            ) : (
              <Quiet>
                {take.unpriced > 0
                  ? say('{{unpriced}} lines have no price', { unpriced: take.unpriced })
                  : say('No total: not everything is on the list')}
              </Quiet>
            )}
          </Aside>
        </Row>
        <Block className="no-print" below="m">
          <OneOf
            label={say('Seen by')}
            value={by}
            onChange={setBy}
            choices={[
              { id: 'product', name: say('By product') },
              { id: 'place', name: say('By circuit, room and place') },
            ]}
          />
        </Block>
        {by === 'place' ? (
          <ByAsker lines={take.lines} />
        ) : (
          <EditTable
            part={mapRows(part, 'lines', empty, rows, keyOf)}
            path="rows"
            label={say('Order list')}
            nameOf={keyOf}
            group={groupOf}
            columns={[
              {
                label: say('On site'),
                bare: true,
                width: 20,
                show: (l) => (
                  <Mark
                    verdict={l.trouble ? 'fail' : l.short > 0 ? 'unknown' : 'pass'}
                    label={l.trouble ? say('trouble') : l.short > 0 ? say('not on site') : say('on site')}
                  />
                ),
              },
              { label: say('Product'), lead: true, show: (l) => <Item line={l} job={job} part={part} said={saidBefore(l)} /> },
              { label: say('Needed'), figure: true, show: (l) => figure(l.need, l.unit) },
              { label: say('To order'), figure: true, show: (l) => <b>{figure(l.order, l.unit)}</b> },
              { label: say('Price'), figure: true, show: (l) => money(l.price, me.currency) },
              { key: 'ordered', label: say('Ordered'), kind: 'number', unitOf: unitOfLine, zero: true, width: 92 },
              { key: 'delivered', label: say('Delivered'), kind: 'number', unitOf: unitOfLine, zero: true, width: 92 },
              { key: 'lengths', label: msg('Pieces, as 30 + 12'), hide: (l) => !l.byLength, width: 120 },
              { key: 'due', label: say('Due'), kind: 'date', hide: (l) => l.short <= 0 && !l.due, width: 128 },
              { label: say('Short'), figure: true, show: (l) => (l.short > 0 ? figure(l.short, l.unit) : '–') },
            ]}
          />
        )}
      </Section>
    </>
  );
}

/** That some of what is short lies in our own stock: nobody buys it before they have looked. */
function InStock({ job }: { job: Of<'JobView'> }) {
  const { data } = useJobStock(job);
  const serve = data?.offers.filter((o) => o.less > 0) ?? [];
  if (!serve.length) return null;
  const names = [...new Set(serve.map((o) => o.kept.name))];
  return (
    <P above="none" data-in-stock>
      <Mark verdict="caution" size={14} />{' '}
      {say('Before you order: {{names}} in our own stock would serve.', {
        names: names.slice(0, 4).join(', ') + (names.length > 4 ? ' …' : ''),
      })}{' '}
      <Link to="?leaf=stock">{say('Look there')}</Link>
    </P>
  );
}

/** What is kept of a line beside what is counted. */
const pick = ({ ordered, delivered, returned, lengths, due, note }: Of<'Stock'>): Of<'Stock'> => ({
  ordered,
  delivered,
  returned,
  lengths,
  due,
  note,
});
