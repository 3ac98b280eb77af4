import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../api/client';
import { useAddStock, useSetStock, useStock } from '../api/stock';
import { figure, parseFigure } from '../parts/figure';
import { Block, Fixed, Grow, Heading, Quiet, Row, Section, Wrong } from '../parts/layout';
import { Pick } from '../parts/Pick';
import { say } from '../words/words';

/** What lies in the vans and on the shelves: left over from jobs, or put there; offered to each job that is short of it. */
export function Shelf({ prices, may }: { prices: Of<'PriceItem'>[]; may: boolean }) {
  const stock = useStock();
  const items = stock.data?.items ?? [];
  return (
    <Section data-shelf>
      <Heading
        aside={
          items.length > 0 && (
            <span>
              <a href="/api/tables/stock" download>
                {say('Stock as CSV')}
              </a>{' '}
              <a href="/api/tables/stock?format=xlsx" download>
                {say('XLSX')}
              </a>
            </span>
          )
        }
      >
        {say('Stock')}
      </Heading>
      {stock.error && <Wrong>{stock.error.message}</Wrong>}
      {stock.data && items.length === 0 && (
        <Quiet block>
          {say('Nothing yet. What a job has left goes in on its Materials, and is offered to the next that is short of it.')}
        </Quiet>
      )}
      {items.map((k) => (
        <ShelfItem key={`${k.id} ${k.count} ${k.place}`} item={k} may={may} />
      ))}
      {may && <PutIn prices={prices} />}
    </Section>
  );
}

/** One thing that lies there: what it is, where, and how much; put right where it is not so. */
function ShelfItem({ item: k, may }: { item: Of<'StockItem'>; may: boolean }) {
  const set = useSetStock();
  const [count, setCount] = useState(figure(k.count));
  const [place, setPlace] = useState(k.place);
  const now = parseFigure(count);
  const same = now === k.count && place === k.place;
  return (
    <Block ruled pad="xs" data-kept={k.product}>
      <Row align="end">
        <Grow from={220}>
          {k.name}
          <Quiet block>
            {k.from ? say('left over from {{ref}}', { ref: k.from }) : say('put there')} · {k.by}, {k.on}
          </Quiet>
        </Grow>
        <Fixed least={100}>
          <TextField
            label={k.byLength ? say('One piece, {{unit}}', { unit: k.unit }) : say('There, {{unit}}', { unit: k.unit })}
            value={count}
            disabled={!may}
            onChange={(e) => setCount(e.target.value)}
            slotProps={{ htmlInput: { inputMode: 'decimal', name: `kept-${k.id}` } }}
          />
        </Fixed>
        <Fixed least={140}>
          <TextField
            label={say('Van or shelf')}
            value={place}
            disabled={!may}
            onChange={(e) => setPlace(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
        </Fixed>
        {may && (
          <>
            <Button
              disabled={same || typeof now !== 'number' || set.isPending}
              onClick={() => set.mutate({ item: k.id, count: now ?? 0, place })}
            >
              {say('Put it right')}
            </Button>
            <Button disabled={set.isPending} onClick={() => set.mutate({ item: k.id, count: 0, place: k.place })}>
              {say('Used up')}
            </Button>
          </>
        )}
      </Row>
      {set.error && <Wrong>{set.error.message}</Wrong>}
    </Block>
  );
}

/** Something of the price list that somebody puts onto a shelf. */
function PutIn({ prices }: { prices: Of<'PriceItem'>[] }) {
  const add = useAddStock();
  const [product, setProduct] = useState('');
  const [count, setCount] = useState('');
  const [place, setPlace] = useState('');
  const item = prices.find((p) => p.key === product);
  const n = parseFigure(count);
  const byLength = item?.unit === 'm' || item?.unit === 'ft';
  const ready = item && typeof n === 'number' && n > 0 && place.trim() !== '';
  return (
    <Block above="m">
      <Row align="end">
        <Grow from={240}>
          <Pick
            label={say('Put something in')}
            name="stockProduct"
            value={product}
            onChange={setProduct}
            options={prices.filter((p) => !p.key.startsWith('hours:')).map((p) => ({ id: p.key, name: p.name }))}
          />
        </Grow>
        <Fixed least={110}>
          <TextField
            label={byLength ? say('One piece, {{unit}}', { unit: item.unit }) : say('How many')}
            value={count}
            onChange={(e) => setCount(e.target.value)}
            slotProps={{ htmlInput: { inputMode: 'decimal', name: 'stockCount' } }}
          />
        </Fixed>
        <Fixed least={140}>
          <TextField
            label={say('Van or shelf')}
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            slotProps={{ htmlInput: { name: 'stockPlace', maxLength: 120 } }}
          />
        </Fixed>
        <Button
          disabled={!ready || add.isPending}
          onClick={() =>
            item &&
            add.mutate({ product, name: item.name, unit: item.unit, byLength, count: n ?? 0, place }, { onSuccess: () => setCount('') })
          }
        >
          {say('Put it in')}
        </Button>
      </Row>
      {add.error && <Wrong>{add.error.message}</Wrong>}
    </Block>
  );
}
