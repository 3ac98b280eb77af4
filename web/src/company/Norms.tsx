import { Button } from '@mui/material';
import type { Of } from '../api/client';
import { useNorms } from '../api/days';
import type { Part } from '../api/part';
import { figure } from '../parts/figure';
import { Heading, P, Quiet, Scroll, Section, SheetTable, Wrong } from '../parts/layout';
import { Mark } from '../parts/Mark';
import { say } from '../words/words';

/** The hours of the work beside what it really took, with the lines of the list by which it would come out. What is taken over is saved with the page. */
export function Norms({ part }: { part: Part<Of<'Company'>> }) {
  const norms = useNorms();
  const prices = part.value.prices;
  const inList = (l: Of<'NormLine'>) => prices.find((p) => p.key === l.key)?.hours;
  const open = (r: Of<'NormRow'>) => r.lines.filter((l) => inList(l) !== l.proposed);
  const take = (lines: Of<'NormLine'>[]) => {
    const fresh = lines.filter((l) => inList(l) === undefined);
    part.set('prices', [
      ...prices.map((p) => ({ ...p, hours: lines.find((l) => l.key === p.key)?.proposed ?? p.hours })),
      ...fresh.map((l) => ({
        key: l.key,
        name: l.name,
        unit: 'h',
        price: 0,
        hours: l.proposed,
        high: 0,
        packs: [],
        leadDays: 0,
        merchant: '',
        instead: [],
      })),
    ]);
  };
  return (
    <Section>
      <Heading>{say('Hours as they were worked')}</Heading>
      <P above="none">
        <Quiet>
          {say(
            'From steps that are done and have hours noted or clocked. A proposal needs three of them, and none is made where they are so far off that something else was noted.',
          )}
        </Quiet>
      </P>
      {norms.error && <Wrong>{norms.error.message}</Wrong>}
      {norms.data?.length === 0 && <P data-nothing>{say('No step that is done has hours noted yet.')}</P>}
      {!!norms.data?.length && (
        <Scroll>
          <SheetTable aria-label={say('Hours as they were worked')} data-cards>
            <thead>
              <tr>
                <th scope="col">{say('Work')}</th>
                <th scope="col" className="num">
                  {say('Planned')}
                </th>
                <th scope="col" className="num">
                  {say('Worked')}
                </th>
                <th scope="col" className="num">
                  {say('Factor')}
                </th>
                <th scope="col">{say('Hours in the list')}</th>
              </tr>
            </thead>
            <tbody>
              {norms.data.map((r) => (
                <tr key={r.norm} data-norm={r.norm}>
                  <td data-whole>
                    {r.over && <Mark verdict="caution" size={13} label={say('over by more than a quarter')} />} {r.name}
                    <Quiet block>{say('steps: {{steps}} · jobs: {{jobs}}', { steps: r.steps, jobs: r.jobs })}</Quiet>
                  </td>
                  <td className="num" data-label={say('Planned')}>
                    {figure(r.planned, 'h')}
                  </td>
                  <td className="num" data-label={say('Worked')}>
                    {figure(r.worked, 'h')}
                  </td>
                  <td className="num" data-label={say('Factor')}>
                    {figure(r.factor)}
                  </td>
                  <td data-label={say('Hours in the list')}>
                    {open(r).length === 0 ? (
                      <Quiet>{r.lines.length > 0 ? say('taken over, saved with the page') : say('nothing to propose')}</Quiet>
                    ) : (
                      <>
                        {open(r)
                          .slice(0, 3)
                          .map((l) => (
                            <div key={l.key}>
                              {l.name}: {say('{{to}} instead of {{from}}', { to: figure(l.proposed, 'h'), from: figure(l.hours, 'h') })}
                            </div>
                          ))}
                        {open(r).length > 3 && <Quiet block>{say('and {{n}} more lines', { n: open(r).length - 3 })}</Quiet>}
                        <Button size="small" disabled={part.frozen} onClick={() => take(open(r))}>
                          {say('Take over')}
                        </Button>
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </SheetTable>
        </Scroll>
      )}
    </Section>
  );
}
