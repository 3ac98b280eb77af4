import { Button, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useFrame } from '../../frame/Shell';
import { figure, money } from '../../parts/figure';
import { Aside, Block, Heading, List, P, Row, Scroll, Section, SheetTable } from '../../parts/layout';
import { say } from '../../words/words';
import { Open } from './Open';
import { upTo } from './priceSays';

/** The price as it is built up, by piece of the installation or by room; both come to the same. */
export function PriceTable({ job, sheet }: { job: Of<'JobView'>; sheet: Of<'QuoteSheet'> }) {
  const { me } = useFrame();
  const [by, setBy] = useState<'items' | 'rooms'>('items');
  const { price } = sheet;
  return (
    <Section>
      <Open job={job} sheet={sheet} />
      <Row below="s">
        <ToggleButtonGroup
          size="small"
          exclusive
          value={by}
          onChange={(_, v: typeof by | null) => v && setBy(v)}
          aria-label={say('Price by')}
        >
          <ToggleButton value="items">{say('By piece')}</ToggleButton>
          <ToggleButton value="rooms">{say('By room')}</ToggleButton>
        </ToggleButtonGroup>
        <Aside className="no-print">
          <Button component="a" href={`/api/jobs/${job.id}/quote.pdf${by === 'rooms' ? '?rooms=true' : ''}`}>
            {say('Quote as PDF')}
          </Button>
        </Aside>
      </Row>
      <Scroll>
        <SheetTable aria-label={say('The price')} data-cards data-price={by}>
          <thead>
            <tr>
              <th scope="col">{by === 'rooms' ? say('Room') : say('What for')}</th>
              {heads().map((h) => (
                <th key={h} scope="col" className="num">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {price[by].map((r) => (
              <PriceRow key={`${r.kind}:${r.id}`} row={r} currency={me.currency} />
            ))}
            {price[by].length === 0 && (
              <tr>
                <td colSpan={8}>{say('Nothing to price yet: the job has no circuit, no point and no charge.')}</td>
              </tr>
            )}
          </tbody>
        </SheetTable>
      </Scroll>
      <Sums price={price} currency={me.currency} />
      <P small quiet>
        {say(
          'Board and tests: the share of each in the board that it hangs on and in what is tested as a whole. What a piece of remedial work ' +
            'costs whole, hours with it, stands under its finding.',
        )}
      </P>
      <Heading>{say('What is done for it')}</Heading>
      <List>
        {price.includes.map((x) => (
          <li key={x}>{x}</li>
        ))}
      </List>
    </Section>
  );
}

const heads = () => [say('Parts'), say('Labour'), say('Board'), say('Tests'), say('Others'), say('Sum'), say('Hours')];

function PriceRow({ row, currency }: { row: Of<'QuoteRow'>; currency: string }) {
  const cells = [row.parts, row.labour, row.board, row.tests, row.others];
  return (
    <tr data-priced={row.kind}>
      <td data-whole>{row.name}</td>
      {cells.map((v, i) => (
        <td key={heads()[i]} className="num" data-label={heads()[i]}>
          {v === 0 ? '–' : v.toFixed(2)}
        </td>
      ))}
      <td className="num" data-label={say('Sum')}>
        <b>{upTo(row.sum, row.high, currency)}</b>
      </td>
      <td className="num" data-label={say('Hours')}>
        {row.hours ? figure(row.hours) : '–'}
      </td>
    </tr>
  );
}

/** What the rows come to: contingency, tax and the price. */
function Sums({ price, currency }: { price: Of<'QuotePrice'>; currency: string }) {
  const { sum, rule } = price;
  const lines: [string, string][] = [[say('Together'), money(sum.net, currency)]];
  if (sum.contingency) lines.push([say('Contingency, {{pc}} %', { pc: rule.contingencyPc }), money(sum.contingency, currency)]);
  if (sum.tax) lines.push([`${rule.taxName || say('Tax')}, ${rule.taxPc} %`, money(sum.tax, currency)]);
  return (
    <Block above="s">
      {lines.map(([name, v]) => (
        <Row key={name}>
          <span>{name}</span>
          <Aside>{v}</Aside>
        </Row>
      ))}
      <Row>
        <b>{price.lacks.length ? say('Price, as far as it is known') : say('Price')}</b>
        <Aside>
          <b data-total>{upTo(sum.total, sum.high, currency)}</b>
        </Aside>
      </Row>
    </Block>
  );
}
