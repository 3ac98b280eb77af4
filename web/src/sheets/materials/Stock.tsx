import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useJobStock, useLeaveStock, useTakeStock } from '../../api/stock';
import { figure, parseFigure } from '../../parts/figure';
import { Block, Fixed, Grow, Heading, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { say } from '../../words/words';

/** What of our own stock could serve the job, what it will have left for the next, and what was moved so far. */
export function Stock({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const { data, error } = useJobStock(job);
  if (!data) return error ? <Wrong>{error.message}</Wrong> : <p>{say('Computing …')}</p>;
  return (
    <>
      <Section>
        <Heading>{say('In our stock for this job')}</Heading>
        {data.offers.length === 0 && <Quiet>{say('Nothing that the job is still short of lies in our stock.')}</Quiet>}
        {data.offers.map((o) => (
          <Offer key={o.kept.id} job={job} offer={o} />
        ))}
      </Section>
      <Section>
        <Heading>{say('Left over')}</Heading>
        <Quiet block>
          {data.surplus.length
            ? say('As it is reckoned. Count or measure it before it goes back: what you enter is offered to the next job.')
            : say('Nothing so far: no more came than the job needs.')}
        </Quiet>
        {data.surplus.map((s) => (
          <Over key={s.product} job={job} surplus={s} />
        ))}
      </Section>
      <Section>
        <Heading>{say('Moved so far')}</Heading>
        {j.purchases.taken.length + j.purchases.left.length === 0 && <Quiet>{say('Nothing yet.')}</Quiet>}
        {j.purchases.taken.map((m, i) => (
          <MovedRow key={`t${i}`} moved={m} way={say('out of the stock')} />
        ))}
        {j.purchases.left.map((m, i) => (
          <MovedRow key={`l${i}`} moved={m} way={say('into the stock')} />
        ))}
      </Section>
    </>
  );
}

function Offer({ job, offer: o }: { job: Of<'JobView'>; offer: Of<'StockOffer'> }) {
  const take = useTakeStock(job.id);
  const [count, setCount] = useState(String(o.take));
  const wanted = o.kept.byLength ? 0 : parseFigure(count);
  const { unit } = o.kept;
  return (
    <Block ruled pad="xs" data-offer={o.kept.product}>
      <Row align="end">
        <Grow from={240}>
          <Mark verdict={o.does ? 'pass' : 'caution'} size={14} label={o.does ? say('serves') : say('does not serve')} />{' '}
          <b>
            {o.kept.name}: {figure(o.kept.count, unit)}
            {o.kept.byLength && ` ${say('in one piece')}`}
          </b>
          <Quiet block>
            {o.kept.place}
            {o.kept.from && ` · ${say('left over from {{ref}}', { ref: o.kept.from })}`} · {o.says}
            {o.less > 0 && ` · ${say('{{less}} less to buy', { less: figure(o.less, unit) })}`}
          </Quiet>
        </Grow>
        {!o.kept.byLength && (
          <Fixed least={90}>
            <TextField
              label={say('Take, {{unit}}', { unit })}
              value={count}
              onChange={(e) => setCount(e.target.value)}
              slotProps={{ htmlInput: { inputMode: 'decimal', name: `take-${o.kept.id}` } }}
            />
          </Fixed>
        )}
        <Button
          variant={o.does ? 'contained' : 'outlined'}
          disabled={typeof wanted !== 'number' || take.isPending || job.view.frozen}
          onClick={() => take.mutate({ item: o.kept.id, count: wanted ?? 0 })}
        >
          {say('Take it')}
        </Button>
      </Row>
      {take.error && <Wrong>{take.error.message}</Wrong>}
    </Block>
  );
}

function Over({ job, surplus: s }: { job: Of<'JobView'>; surplus: Of<'StockSurplus'> }) {
  const leave = useLeaveStock(job.id);
  const [count, setCount] = useState('');
  const [lengths, setLengths] = useState('');
  const [place, setPlace] = useState('');
  const counted = s.byLength ? 0 : parseFigure(count);
  const ready = place.trim() !== '' && (s.byLength ? lengths.trim() !== '' : typeof counted === 'number' && counted > 0);
  const put = () =>
    leave.mutate(
      { product: s.product, count: counted ?? 0, lengths: s.byLength ? lengths : '', place },
      {
        onSuccess: () => {
          setCount('');
          setLengths('');
        },
      },
    );
  return (
    <Block ruled pad="xs" data-over={s.product}>
      <Row align="end">
        <Grow from={220}>
          {s.name}
          <Quiet block>
            {say('about {{count}}', { count: figure(s.count, s.unit) })}
            {s.lengths && ` · ${say('in pieces of {{lengths}}', { lengths: s.lengths })}`}
          </Quiet>
        </Grow>
        {s.byLength ? (
          <Fixed least={150}>
            <TextField
              label={say('Measured, as 30 + 12')}
              value={lengths}
              onChange={(e) => setLengths(e.target.value)}
              slotProps={{ htmlInput: { name: `left-${s.product}` } }}
            />
          </Fixed>
        ) : (
          <Fixed least={110}>
            <TextField
              label={say('Counted, {{unit}}', { unit: s.unit })}
              value={count}
              onChange={(e) => setCount(e.target.value)}
              slotProps={{ htmlInput: { inputMode: 'decimal', name: `left-${s.product}` } }}
            />
          </Fixed>
        )}
        <Fixed least={130}>
          <TextField
            label={say('Van or shelf')}
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            slotProps={{ htmlInput: { name: `place-${s.product}`, maxLength: 120 } }}
          />
        </Fixed>
        <Button disabled={!ready || leave.isPending || job.view.frozen} onClick={put}>
          {say('Into the stock')}
        </Button>
      </Row>
      {leave.error && <Wrong>{leave.error.message}</Wrong>}
    </Block>
  );
}

function MovedRow({ moved: m, way }: { moved: Of<'Transfer'>; way: string }) {
  return (
    <Row ruled pad="xs" gap="xs" data-moved={m.product}>
      <span>
        {m.name}: {m.lengths || figure(m.count, m.unit)} <b>{way}</b>
      </span>
      <Quiet>
        {m.place}
        {m.with && ` · ${say('left over from {{ref}}', { ref: m.with })}`} · {m.by}, {m.on}
      </Quiet>
    </Row>
  );
}
