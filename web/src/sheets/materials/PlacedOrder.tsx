import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useWithdrawOrder } from '../../api/goods';
import { useFrame } from '../../frame/Shell';
import { figure, money } from '../../parts/figure';
import { Block, Details, Quiet, Row, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { msg, say } from '../../words/words';

const states = {
  waiting: ['unknown', msg('on its way')],
  received: ['unknown', msg('received, not yet looked at')],
  confirmed: ['pass', msg('confirmed')],
  delivered: ['pass', msg('all that comes has left the merchant')],
  refused: ['fail', msg('refused')],
  lost: ['fail', msg('no longer known to the merchant')],
  withdrawn: ['caution', msg('withdrawn')],
} as const;

interface Props {
  job: Of<'JobView'>;
  order: Of<'Purchase'>;
  sent: Of<'OrderOnItsWay'> | undefined;
}

/** An order that was sent: how it stands, what comes of it when, and that it was withdrawn. */
export function PlacedOrder({ job, order: o, sent }: Props) {
  const [verdict, stands] = states[o.state];
  const misses = o.lines.filter((l) => missing(o, l) > 0).length;
  const look = misses > 0 || o.lines.some(cutAnew);
  const running = ['waiting', 'received', 'confirmed'].includes(o.state);
  return (
    <Block ruled pad="s" data-order={o.number} data-state={o.state}>
      <Row align="start">
        <Mark verdict={verdict} label={say(stands)} />
        <span>
          <b>{o.number}</b>: {say(stands)}
          <Quiet block>
            {o.by}, {o.on}
            {o.merchant && ` · ${o.merchant}`}
            {o.simulated && ` ${say('(simulated)')}`}
            {o.reference && ` · ${say('reference {{reference}}', { reference: o.reference })}`}
            {o.message && ` · ${o.message}`}
          </Quiet>
          {running && sent?.trouble && (
            <Quiet block>
              {say('{{trouble}}. Tried {{tries}} times; it is tried again by itself.', { trouble: sent.trouble, tries: sent.tries })}
            </Quiet>
          )}
        </span>
      </Row>
      <Details open={look}>
        <summary>
          <Quiet>
            {say('Lines: {{n}}', { n: o.lines.length })}
            {misses > 0 && ` · ${say('not all comes: {{n}}', { n: misses })}`}
          </Quiet>
        </summary>
        {o.lines.map((l) => (
          <OrderedLine key={l.product} order={o} line={l} />
        ))}
      </Details>
      {running && <Withdraw job={job} order={o} />}
    </Block>
  );
}

/** How much of a line does not come, as far as the merchant has said. */
function missing(o: Of<'Purchase'>, l: Of<'PurchaseLine'>): number {
  if (o.state !== 'confirmed' && o.state !== 'delivered') return 0;
  return l.count - l.promises.reduce((sum, p) => sum + p.count, 0);
}

/** Whether a line comes in other lengths than it was ordered in. */
const cutAnew = (l: Of<'PurchaseLine'>) => l.pieces !== '' && l.lengths !== '' && l.pieces !== l.lengths;

function OrderedLine({ order, line: l }: { order: Of<'Purchase'>; line: Of<'PurchaseLine'> }) {
  const { me } = useFrame();
  const short = missing(order, l) > 0;
  return (
    <Row gap="xs" data-ordered={l.product}>
      <Mark verdict={short || cutAnew(l) ? 'fail' : l.promises.length ? 'pass' : 'unknown'} size={14} />
      {l.name}: {figure(l.count, l.unit)}
      {l.lengths && <Quiet>({l.lengths})</Quiet>}
      {cutAnew(l) && <b>{say('comes in {{pieces}}', { pieces: l.pieces })}</b>}
      <Quiet>
        {[
          ...(l.price == null ? [] : [money(l.price, me.currency)]),
          ...l.promises.map((p) => say('{{count}} on {{day}}', { count: figure(p.count, l.unit), day: p.on })),
        ].join(' · ')}
      </Quiet>
      {short && <b>{l.gone ? say('no longer sold') : l.sold ? say('the rest does not come') : say('not sold here')}</b>}
    </Row>
  );
}

/** An order that somebody withdrew by telephone: with whom they spoke. */
function Withdraw({ job, order }: { job: Of<'JobView'>; order: Of<'Purchase'> }) {
  const withdraw = useWithdrawOrder(job.id);
  const [open, setOpen] = useState(false);
  const [spoke, setSpoke] = useState('');
  if (!open)
    return (
      <Button className="no-print" disabled={job.view.frozen} onClick={() => setOpen(true)}>
        {say('Withdraw …')}
      </Button>
    );
  return (
    <Block above="s" className="no-print">
      <Quiet block>{say('The merchant may have it already: call first. What is withdrawn here is open to be ordered again.')}</Quiet>
      <Row align="end">
        <TextField
          label={say('Whom you spoke to')}
          value={spoke}
          onChange={(e) => setSpoke(e.target.value)}
          slotProps={{ htmlInput: { name: 'spokeTo', maxLength: 120 } }}
        />
        <Button disabled={!spoke.trim() || withdraw.isPending} onClick={() => withdraw.mutate({ order: order.id, with: spoke })}>
          {say('It is withdrawn')}
        </Button>
        <Button onClick={() => setOpen(false)}>{say('Cancel')}</Button>
      </Row>
      {withdraw.error && <Wrong>{withdraw.error.message}</Wrong>}
    </Block>
  );
}
