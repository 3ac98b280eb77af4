import { styled } from '@mui/material/styles';
import { msg, say } from '../../words/words';
import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { usePart } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { NumberBox } from '../../parts/fields';
import { figure, money } from '../../parts/figure';
import { Aside, Fixed, Heading, NotYet, Quiet, Row, Section } from '../../parts/layout';
import { mapRows } from '../../parts/mapRows';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead } from '../../parts/SheetHead';
import { SheetLink } from '../../parts/SheetLink';
import { useFrame } from '../../frame/Shell';
import type { SheetProps } from '../props';

const Short = styled('div')({ color: 'var(--brick)', fontWeight: 600 });

const empty: Of<'Stock'> = { ordered: 0, delivered: 0, lengths: '', due: '', note: '' };

type Line = Of<'TakeLine'> & Of<'Stock'>;

const keyOf = (l: Line) => l.key;
const unitOfLine = (l: Line) => l.unit;

/** What is to be had, by which rule, what keeps it from being ordered, and what is wrong with what came. */
function Item({ line: l, job, said }: { line: Line; job: string; said: boolean }) {
  return (
    <>
      {l.name} {l.assumed && <span title={say('rests on an assumed length')}>◐</span>}
      <br />
      <Quiet>{l.rule}</Quiet>
      {l.remark && <div>{l.remark}</div>}
      {l.trouble && <Short>{l.trouble}</Short>}
      {l.held && (
        <Short data-held={l.key}>
          {said ? say('Not ordered, for the same reason.') : l.held.why} <SheetLink job={job} at={l.held} />
        </Short>
      )}
    </>
  );
}

/** The take-off: what to order, by which rule, what came and what is short. For the office and the yard. */
export function MaterialsSheet({ job, j }: SheetProps) {
  const part = usePart(job, 'materials', j.materials);
  const { me } = useFrame();
  const take = job.view.take;
  const short = take.lines.filter((l) => l.short > 0).length;
  const stock = (key: string) => part.value.lines[key] ?? empty;
  const rows = take.lines.map((l): Line => ({ ...l, ...stock(l.key) }));
  const saidBefore = (l: Line) => take.lines.find((o) => o.held?.why === l.held?.why)?.key !== l.key;
  const all = (field: 'ordered' | 'delivered') =>
    part.save(
      'lines',
      Object.fromEntries(
        take.lines.map((l) => {
          const was = stock(l.key);
          if (field === 'ordered' && l.held) return [l.key, was];
          const pieces = field === 'delivered' && l.byLength && !was.lengths ? { lengths: String(was.ordered || l.order) } : {};
          return [l.key, { ...was, [field]: field === 'delivered' && was.ordered ? was.ordered : l.order, ...pieces }];
        }),
      ),
    );
  return (
    <>
      <SheetHead
        title={say('Materials')}
        job={job.id}
        summary={
          !take.lines.length
            ? say('Nothing to take off: there is no circuit yet.')
            : short
              ? say('{{short}} of {{lines}} lines not on site.', { short, lines: take.lines.length })
              : say('Everything is on site.')
        }
        tables={[['materials', 'Take-off']]}
      />
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('Take-off')}</Heading>
        <Row below="m">
          <Fixed least={170}>
            <NumberBox part={part} path="wastagePc" label={say('Added to cable for waste')} unit="%" />
          </Fixed>
          <Button className="no-print" disabled={part.frozen || !take.lines.length} onClick={() => all('ordered')}>
            {say('All ordered')}
          </Button>
          <Button className="no-print" disabled={part.frozen || !take.lines.length} onClick={() => all('delivered')}>
            {say('All delivered as ordered, each length in one piece')}
          </Button>
          <Aside>
            {take.total !== null ? (
              <>
                {say('Material')} <b>{money(take.total, me.currency)}</b> {say('net')}
              </>
            ) : (
              <Quiet>{say('{{unpriced}} lines have no price', { unpriced: take.unpriced })}</Quiet>
            )}
          </Aside>
        </Row>
        <EditTable
          part={mapRows(part, 'lines', empty, rows, keyOf)}
          path="rows"
          label="Take-off"
          nameOf={keyOf}
          columns={[
            {
              label: say('On site'),
              bare: true,
              width: 20,
              show: (l) => (
                <Mark
                  verdict={l.trouble ? 'fail' : l.short > 0 ? 'unknown' : 'pass'}
                  label={l.trouble ? 'trouble' : l.short > 0 ? say('not on site') : say('on site')}
                />
              ),
            },
            { label: say('Item and rule'), lead: true, show: (l) => <Item line={l} job={job.id} said={saidBefore(l)} /> },
            { label: say('Needed'), figure: true, show: (l) => figure(l.need, l.unit) },
            { label: say('To order'), figure: true, show: (l) => <b>{figure(l.order, l.unit)}</b> },
            { label: say('Price'), figure: true, show: (l) => money(l.price, me.currency) },
            { key: 'ordered', label: 'Ordered', kind: 'number', unitOf: unitOfLine, zero: true, width: 92 },
            { key: 'delivered', label: 'Delivered', kind: 'number', unitOf: unitOfLine, zero: true, width: 92 },
            { key: 'lengths', label: msg('Pieces, as 30 + 12'), hide: (l) => !l.byLength, width: 120 },
            { key: 'due', label: 'Due', kind: 'date', hide: (l) => l.short <= 0 && !l.due, width: 128 },
            { label: say('Short'), figure: true, show: (l) => (l.short > 0 ? figure(l.short, l.unit) : '–') },
          ]}
        />
      </Section>
      <NotYet>
        {say('cut lists over several circuits, merchants’ quotes and delivery notes read in. Prices come from the company’s own list.')}
      </NotYet>
    </>
  );
}
