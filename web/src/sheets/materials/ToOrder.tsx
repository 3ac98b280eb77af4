import { Button, Checkbox } from '@mui/material';
import { type ReactNode, useState } from 'react';
import type { Of } from '../../api/client';
import { useAskMerchant, useOrder } from '../../api/goods';
import type { Part } from '../../api/part';
import { useFrame } from '../../frame/Shell';
import { figure, money } from '../../parts/figure';
import { Bad, Heading, P, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';
import { Instead } from './Instead';

interface Props {
  job: Of<'JobView'>;
  part: Part<Of<'Materials'>>;
  open: Of<'GoodsOrder'>;
  connected: boolean;
}

/** What is still to be ordered: chosen, asked for, sent. What the design or a quote holds is not among it. */
export function ToOrder({ job, part, open, connected }: Props) {
  const enquiry = useAskMerchant(job.id);
  const order = useOrder(job.id);
  const [left, setLeft] = useState<string[]>([]);
  const chosen = open.lines.filter((l) => !left.includes(l.product)).map((l) => l.product);
  const offer = enquiry.data;
  const said = (product: string) => offer?.lines.find((l) => l.product === product);
  const tick = (product: string, on: boolean) => setLeft(on ? left.filter((p) => p !== product) : [...left, product]);
  const off = !connected || !chosen.length || job.view.frozen;
  if (!open.lines.length)
    return (
      <Section>
        <Heading>{say('Still to be ordered')}</Heading>
        <Quiet>{say('Nothing: it is ordered, in place, or held by what the order list says of it.')}</Quiet>
      </Section>
    );
  return (
    <Section>
      <Heading aside={say('{{chosen}} of {{all}} chosen', { chosen: chosen.length, all: open.lines.length })}>
        {say('Still to be ordered')}
      </Heading>
      <Row below="m" className="no-print">
        <Button disabled={off || enquiry.isPending} onClick={() => enquiry.mutate(chosen)}>
          {enquiry.isPending ? say('Asking …') : say('Ask for price, stock and day')}
        </Button>
        <Button
          variant="contained"
          disabled={off || order.isPending}
          onClick={() => order.mutate(chosen, { onSuccess: () => enquiry.reset() })}
        >
          {say('Send the order')}
        </Button>
        <Button onClick={() => setLeft(left.length ? [] : open.lines.map((l) => l.product))}>
          {left.length ? say('Choose all') : say('Choose none')}
        </Button>
        <Quiet>{say('It is tried until the merchant has it, and never sent twice.')}</Quiet>
      </Row>
      {enquiry.error && <Wrong>{enquiry.error.message}</Wrong>}
      {order.error && <Wrong>{order.error.message}</Wrong>}
      {offer && <Comes offer={offer} />}
      <Scroll>
        <SheetTable data-cards aria-label={say('Still to be ordered')}>
          <thead>
            <tr>
              <th scope="col">{say('Product')}</th>
              <th scope="col" className="num">
                {say('To order')}
              </th>
              <th scope="col">{say('In lengths of')}</th>
              <th scope="col">{say('Usual merchant')}</th>
              <th scope="col" className="num">
                {say('Price of one')}
              </th>
              <th scope="col">{say('Comes')}</th>
            </tr>
          </thead>
          <tbody>
            {[...open.lines]
              .sort((a, b) => wrong(said(b.product)) - wrong(said(a.product)))
              .map((l) => (
                <Line key={l.product} line={l} said={said(l.product)} on={!left.includes(l.product)} onTick={tick}>
                  {wrong(said(l.product)) === 3 && <ElseTaken job={job} product={l.product} part={part} />}
                </Line>
              ))}
          </tbody>
        </SheetTable>
      </Scroll>
    </Section>
  );
}

/** How much somebody has to look at a line: what cannot be had first, then what is cut shorter, then what is late. */
function wrong(l: Of<'MerchantOffered'> | undefined): number {
  if (!l) return 0;
  return !l.sold || l.gone ? 3 : l.cut ? 2 : l.late ? 1 : 0;
}

/** What may be taken where the merchant cannot send a product. */
function ElseTaken({ job, product, part }: { job: Of<'JobView'>; product: string; part: Part<Of<'Materials'>> }) {
  const line = job.view.take.lines.find((l) => l.key === product);
  return line && <Instead job={job} line={line} part={part} />;
}

interface LineProps {
  line: Of<'GoodsOrderLine'>;
  said: Of<'MerchantOffered'> | undefined;
  on: boolean;
  onTick: (product: string, on: boolean) => void;
  children: ReactNode;
}

function Line({ line: l, said, on, onTick, children }: LineProps) {
  const { me } = useFrame();
  const dearer = said?.price != null && said.ours != null && said.price > said.ours;
  return (
    <tr data-open={l.product}>
      <td data-whole>
        <Checkbox
          size="small"
          checked={on}
          onChange={(e) => onTick(l.product, e.target.checked)}
          slotProps={{ input: { name: `order-${l.product}`, 'aria-label': say('order {{name}}', { name: l.name }) } }}
        />{' '}
        {l.name}
        {l.again && <Quiet> {say('again, as less came than its note said')}</Quiet>}
        {l.instead && <Quiet> {say('taken in its place: {{instead}}', { instead: l.instead })}</Quiet>}
        {children}
      </td>
      <td className="num" data-label={say('To order')}>
        {figure(l.count, l.unit)}
      </td>
      <td data-label={say('In lengths of')}>{l.lengths.length ? l.lengths.map((v) => figure(v)).join(' + ') : '–'}</td>
      <td data-label={say('Usual merchant')}>{l.merchant || '–'}</td>
      <td className="num" data-label={say('Price of one')}>
        {said?.price == null ? '–' : money(said.price, me.currency)}
        {said?.ours != null && said.price !== said.ours && (
          <Quiet block>
            {dearer ? '▲ ' : '▼ '}
            {say('our list says {{ours}}', { ours: money(said.ours, me.currency) })}
          </Quiet>
        )}
      </td>
      <td data-label={say('Comes')}>{said ? <When said={said} /> : '–'}</td>
    </tr>
  );
}

/** What of a line comes on which day, and what is wrong with it. */
function When({ said: l }: { said: Of<'MerchantOffered'> }) {
  if (!l.sold || l.gone)
    return (
      <>
        <Mark verdict="fail" size={14} /> <Bad>{l.gone ? say('no longer sold') : say('not sold here')}</Bad>
        {l.instead.length > 0 && <Quiet block>{say('they would send: {{what}}', { what: l.instead.join(', ') })}</Quiet>}
      </>
    );
  return (
    <>
      <Mark verdict={l.cut ? 'fail' : l.late ? 'caution' : 'pass'} size={14} />{' '}
      {l.promises.map((p) => say('{{count}} on {{day}}', { count: figure(p.count, l.unit), day: p.on })).join(', ')}
      {l.late && <Quiet block>{say('not all of it before the work begins')}</Quiet>}
      {l.cut && <Quiet block>{say('in shorter pieces than the runs need')}</Quiet>}
    </>
  );
}

/** What the enquiry comes to, beside the company’s own list. */
function Comes({ offer }: { offer: Of<'MerchantOffer'> }) {
  const { me } = useFrame();
  const bad = offer.lines.filter((l) => wrong(l) > 0);
  return (
    <P around="s" data-enquiry>
      <b>{offer.merchant}</b>
      {offer.simulated && ` ${say('(simulated)')}`}
      {': '}
      {offer.total == null ? say('not everything has a price') : say('{{total}} net', { total: money(offer.total, me.currency) })}
      {bad.length > 0 && <Bad> {say('Look at the first {{n}} of the list.', { n: bad.length })}</Bad>}
      {offer.ours != null && offer.total != null && ` · ${say('{{ours}} by our list', { ours: money(offer.ours, me.currency) })}`}
    </P>
  );
}
