import type { Of } from '../api/client';
import { Bad, Quiet, Scroll, SheetTable } from '../parts/layout';
import { figure } from '../parts/figure';
import { say } from '../words/words';
import { dayName } from '../parts/dayName';

/** What each person is planned for on each day of the week, in hours, and how many of their steps slipped. */
export function CrewWeek({ week }: { week: Of<'WeekSheet'> }) {
  return (
    <Scroll>
      <SheetTable aria-label={say('Crew')} data-cards>
        <thead>
          <tr>
            <th scope="col">{say('Who')}</th>
            {week.days.map((d) => (
              <th key={d} scope="col" aria-current={d === week.today ? 'date' : undefined}>
                {dayName(d)}
              </th>
            ))}
            <th scope="col">{say('Slipped')}</th>
          </tr>
        </thead>
        <tbody>
          {week.people.map((p) => (
            <tr key={p.name} data-crew={p.name}>
              <td data-whole>
                <b>{p.name}</b> <Quiet>{say(p.role)}</Quiet>
                {p.lapses.map((l) => (
                  <Quiet key={l.kind} block data-lapse={l.kind}>
                    {l.over
                      ? say('{{kind}}: ended on {{until}}', { kind: l.kind, until: dayName(l.until) })
                      : say('{{kind}}: until {{until}}', { kind: l.kind, until: dayName(l.until) })}
                  </Quiet>
                ))}
              </td>
              {p.days.map((d, n) => (
                <td key={week.days[n]} data-empty={d.hours > 0 || d.away ? undefined : true} data-label={dayName(week.days[n])}>
                  {d.away && <Quiet title={d.away}>{say('away')} </Quiet>}
                  {d.hours > 0 ? (
                    <>
                      {figure(d.hours, 'h')}
                      {d.jobs > 1 && <Quiet> {say('{{n}} jobs', { n: d.jobs })}</Quiet>}
                      {d.over && <Bad> {say('too much')}</Bad>}
                    </>
                  ) : (
                    !d.away && '–'
                  )}
                </td>
              ))}
              <td data-empty={p.slipped ? undefined : true} data-label={say('Slipped')}>
                {p.slipped ? <Bad>{p.slipped}</Bad> : '–'}
              </td>
            </tr>
          ))}
        </tbody>
      </SheetTable>
    </Scroll>
  );
}
