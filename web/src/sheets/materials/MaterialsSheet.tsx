import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { usePart, type Part } from '../../api/part';
import { NumberBox, NumberInput, TextBox } from '../../parts/fields';
import { figure, money } from '../../parts/figure';
import { Aside, Fixed, Heading, NotYet, Quiet, Row, Scroll, Section, SheetTable, Th } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead } from '../../parts/SheetHead';
import { useFrame } from '../../frame/Shell';
import type { SheetProps } from '../props';

const Short = styled('div')({ color: 'var(--brick)', fontWeight: 600 });
const PiecesInput = styled('input')({ font: 'inherit', color: 'inherit', background: 'transparent', border: 0, width: 124 });

const empty: Of<'Stock'> = { ordered: 0, delivered: 0, lengths: '', due: '', note: '' };

/** The take-off: what to order, by which rule, what came and what is short. For the office and the yard. */
export function MaterialsSheet({ job, j }: SheetProps) {
  const part = usePart(job, 'materials', j.materials);
  const { me } = useFrame();
  const take = job.view.take;
  const short = take.lines.filter((l) => l.short > 0).length;
  const stock = (key: string) => part.value.lines[key] ?? empty;
  // A key holds dots and slashes: a line is changed through its whole map.
  const change = (key: string, next: Partial<Of<'Stock'>>, save = false) => {
    const lines = { ...part.value.lines, [key]: { ...stock(key), ...next } };
    if (save) part.save('lines', lines);
    else part.set('lines', lines);
  };
  const all = (field: 'ordered' | 'delivered') =>
    part.save(
      'lines',
      Object.fromEntries(
        take.lines.map((l) => {
          const was = stock(l.key);
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
        <Scroll>
          <SheetTable aria-label={say('Take-off')}>
            <thead>
              <tr>
                <Th width={20} aria-label={say('On site')} />
                <th scope="col">{say('Item and rule')}</th>
                <th scope="col" className="num">
                  {say('Needed')}
                </th>
                <th scope="col" className="num">
                  {say('To order')}
                </th>
                <th scope="col" className="num">
                  {say('Price')}
                </th>
                <Th scope="col" width={92}>
                  {say('Ordered')}
                </Th>
                <Th scope="col" width={92}>
                  {say('Delivered')}
                </Th>
                <Th scope="col" width={120}>
                  {say('Pieces, as 30 + 12')}
                </Th>
                <Th scope="col" width={128}>
                  {say('Due')}
                </Th>
                <th scope="col" className="num">
                  {say('Short')}
                </th>
              </tr>
            </thead>
            <tbody>
              {take.lines.map((l) => {
                const cable = l.byLength;
                return (
                  <tr key={l.key} data-line={l.key}>
                    <td>
                      <Mark
                        verdict={l.trouble ? 'fail' : l.short > 0 ? 'unknown' : 'pass'}
                        label={l.trouble ? 'trouble' : l.short > 0 ? say('not on site') : say('on site')}
                      />
                    </td>
                    <td>
                      {l.name} {l.assumed && <span title={say('rests on an assumed length')}>◐</span>}
                      <br />
                      <Quiet>{l.rule}</Quiet>
                      {l.remark && <div>{l.remark}</div>}
                      {l.trouble && <Short>{l.trouble}</Short>}
                    </td>
                    <td className="num">{figure(l.need, l.unit)}</td>
                    <td className="num">
                      <b>{figure(l.order, l.unit)}</b>
                    </td>
                    <td className="num">{money(l.price, me.currency)}</td>
                    {(['ordered', 'delivered'] as const).map((field) => (
                      <td key={field}>
                        <NumberInput
                          bare
                          label={`${field === 'ordered' ? say('Ordered') : say('Delivered')}`}
                          unit={l.unit}
                          value={stock(l.key)[field]}
                          onValue={(v) => change(l.key, { [field]: v ?? 0 })}
                          onDone={part.commit}
                          disabled={part.frozen}
                          error={part.errors[`materials.lines[${l.key}].${field}`]}
                          path={`${l.key}/${field}`}
                        />
                      </td>
                    ))}
                    <td>
                      {cable && (
                        <Pieces
                          part={part}
                          line={l}
                          value={stock(l.key).lengths}
                          onValue={(v, save) => change(l.key, { lengths: v }, save)}
                        />
                      )}
                    </td>
                    <td>
                      {(l.short > 0 || stock(l.key).due) && (
                        <PiecesInput
                          type="date"
                          aria-label={say('Due, {{name}}', { name: l.name })}
                          data-path={`${l.key}/due`}
                          value={stock(l.key).due}
                          disabled={part.frozen}
                          onChange={(e) => change(l.key, { due: e.target.value }, true)}
                        />
                      )}
                    </td>
                    <td className="num">{l.short > 0 ? figure(l.short, l.unit) : '–'}</td>
                  </tr>
                );
              })}
            </tbody>
          </SheetTable>
        </Scroll>
      </Section>
      <NotYet>
        {say('cut lists over several circuits, merchants’ quotes and delivery notes read in. Prices come from the company’s own list.')}
      </NotYet>
    </>
  );
}

function Pieces({
  part,
  line,
  value,
  onValue,
}: {
  part: Part;
  line: Of<'TakeLine'>;
  value: string;
  onValue: (v: string, save?: boolean) => void;
}) {
  const inner: Part = {
    ...part,
    name: '',
    value: { v: value },
    errors: { '.v': part.errors[`materials.lines[${line.key}].lengths`] },
    set: (_, v) => onValue(String(v)),
    save: (_, v) => onValue(String(v), true),
  };
  return <TextBox part={inner} path="v" label={say('Pieces, as 30 + 12')} bare />;
}
