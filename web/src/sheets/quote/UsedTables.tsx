import type { Of } from '../../api/client';
import { usePart } from '../../api/part';
import { useRecord } from '../../api/records';
import { useFrame } from '../../frame/Shell';
import { EditTable } from '../../parts/EditTable';
import { AddHours } from '../../parts/AddHours';
import { figure, money } from '../../parts/figure';
import { Heading, P, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { mapRows } from '../../parts/mapRows';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { say } from '../../words/words';

type Used = Of<'QuoteUsed'>;

/** The hours and the parts that a job really took, beside what it was priced with. */
export function UsedTables({ job, used }: { job: Of<'JobView'>; used: Used }) {
  const { me } = useFrame();
  return (
    <>
      <Section>
        <Heading>{say('The job as a whole')}</Heading>
        <Row data-used-hours>
          {say('Worked: {{worked}} of {{hours}} in the plan', {
            worked: figure(used.worked),
            hours: figure(used.hours, 'person-hours'),
          })}
          {used.done > 0 && (
            <Quiet>{say('noted on {{noted}} of the {{done}} steps that are done', { noted: used.noted, done: used.done })}</Quiet>
          )}
        </Row>
        <Row>
          {say('Parts that came and stayed: {{cost}} net', { cost: money(used.partsCost, me.currency) })}
          <Quiet>{say('of {{n}} products', { n: used.counted })}</Quiet>
        </Row>
        {used.offeredHours !== null && used.offeredHours !== undefined && (
          <Row>
            {say('Accepted with {{hours}} and parts of {{parts}}', {
              hours: figure(used.offeredHours, 'person-hours'),
              parts: money(used.offeredParts, me.currency),
            })}
          </Row>
        )}
      </Section>
      <Hours job={job} tasks={used.tasks} />
      <Returned job={job} parts={used.parts} />
    </>
  );
}

function Hours({ job, tasks }: { job: Of<'JobView'>; tasks: Used['tasks'] }) {
  const record = useRecord(job.id);
  return (
    <Section>
      <Heading>{say('Hours by step')}</Heading>
      {record.error && <Wrong>{record.error.message}</Wrong>}
      <Scroll>
        <SheetTable aria-label={say('Hours by step')} data-cards>
          <thead>
            <tr>
              <th scope="col">{say('Step')}</th>
              <th scope="col" className="num">
                {say('Planned')}
              </th>
              <th scope="col" className="num">
                {say('Worked')}
              </th>
              <th scope="col">{say('Add person-hours')}</th>
            </tr>
          </thead>
          <tbody>
            {tasks.map((t) => (
              <tr key={t.id} data-worked={t.id}>
                <td data-whole>
                  {t.over && <Mark verdict="caution" size={13} label={say('over by more than a quarter')} />} {t.title}
                </td>
                <td className="num" data-label={say('Planned')}>
                  {figure(t.hours, 'h')}
                </td>
                <td className="num" data-label={say('Worked')}>
                  {t.worked ? figure(t.worked, 'h') : '–'}
                </td>
                <td data-label={say('Add person-hours')}>
                  <AddHours
                    task={t.id}
                    disabled={job.view.frozen}
                    onAdd={(value) => record.mutate({ kind: 'worked', subject: t.id, value, note: '' })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
    </Section>
  );
}

const stock: Of<'Stock'> = { ordered: 0, delivered: 0, returned: 0, lengths: '', due: '', note: '' };
const keyOf = (p: Of<'QuoteUsedPart'>) => p.key;

/** A part with what of it went through our own stock, and at whose price it counts. */
function Part({ part: p }: { part: Of<'QuoteUsedPart'> }) {
  const { me } = useFrame();
  const says = [
    ...(p.taken > 0 ? [say('{{count}} out of our stock', { count: figure(p.taken, p.unit) })] : []),
    ...(p.left > 0 ? [say('{{count}} into our stock', { count: figure(p.left, p.unit) })] : []),
    ...(p.paid == null ? [] : [say('{{price}} for one, as the merchant confirmed', { price: money(p.paid, me.currency) })]),
  ];
  return (
    <>
      {p.name}
      {says.length > 0 && <Quiet block>{says.join(' · ')}</Quiet>}
    </>
  );
}

/** What of the parts went back, and so what stayed in the job. */
function Returned({ job, parts }: { job: Of<'JobView'>; parts: Used['parts'] }) {
  const { me } = useFrame();
  const part = usePart(job, 'materials', (job.view.job as Of<'Job'>).materials);
  const rows = parts
    .filter((p) => p.delivered + p.taken > 0)
    .map((p) => ({ ...p, ...(part.value.lines[p.key] ?? { ...stock, delivered: p.delivered, returned: p.returned }) }));
  return (
    <Section>
      <Heading aside={<SaveLine part={part} />}>{say('Parts that came, went back and stayed')}</Heading>
      {rows.length === 0 ? (
        <P>{say('Nothing was delivered yet.')}</P>
      ) : (
        <EditTable
          part={mapRows(part, 'lines', stock, rows, keyOf)}
          path="rows"
          label={say('Parts that came, went back and stayed')}
          nameOf={keyOf}
          columns={[
            { label: say('Product'), lead: true, show: (p) => <Part part={p} /> },
            { label: say('Priced with'), figure: true, show: (p) => figure(p.planned, p.unit) },
            { label: say('Came'), figure: true, show: (p) => figure(p.delivered, p.unit) },
            { key: 'returned', label: say('Went back'), kind: 'number', unitOf: (p) => p.unit, zero: true, width: 110 },
            { label: say('Stayed'), figure: true, show: (p) => figure(p.used, p.unit) },
            { label: say('More than priced, net'), figure: true, show: (p) => (p.more === 0 ? '–' : money(p.more, me.currency)) },
          ]}
        />
      )}
    </Section>
  );
}
