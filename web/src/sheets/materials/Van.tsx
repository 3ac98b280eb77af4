import { useState } from 'react';
import type { Of } from '../../api/client';
import { useVan } from '../../api/goods';
import { membersOf, useKept, useRecord } from '../../api/records';
import { Block, Details, Heading, P, Quiet, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Tick } from '../../parts/Tick';
import { moment, say } from '../../words/words';

const groups = (): [string, string][] => [
  ['parts', say('Parts')],
  ['tool', say('Tools')],
  ['instrument', say('Test instruments')],
  ['protection', say('Protection')],
  ['aid', say('First aid')],
  ['light', say('Light')],
  ['power', say('Power')],
];

/** What goes into the van for the steps that come next, ticked as it goes in. On a phone, in the yard, with or without a connection. */
export function Van({ job }: { job: Of<'JobView'> }) {
  const { data, error } = useVan(job.id);
  const [picked, setPicked] = useState<string[]>();
  if (!data) return error ? <Wrong>{error.message}</Wrong> : <p>{say('Listing what goes in …')}</p>;
  const chosen = picked ?? data.steps.filter((s) => s.next).map((s) => s.id);
  const items = data.items.filter((i) => i.tasks.some((t) => chosen.includes(t)));
  const inside = items.filter((i) => i.packed).length;
  return (
    <>
      <Details above="none">
        <summary>{say('For {{n}} of the {{all}} steps that are open', { n: chosen.length, all: data.steps.length })}</summary>
        {data.steps.map((s) => (
          <Tick
            key={s.id}
            name={`step-${s.id}`}
            label={s.title}
            checked={chosen.includes(s.id)}
            onChange={(on) => setPicked(on ? [...chosen, s.id] : chosen.filter((x) => x !== s.id))}
          />
        ))}
      </Details>
      <P data-packed strong>
        {say('{{inside}} of {{all}} in the van', { inside, all: items.length })}
      </P>
      {items.length === 0 && <Quiet>{say('No step is chosen that asks for anything.')}</Quiet>}
      {groups().map(([id, name]) => {
        const of = items.filter((i) => i.group === id);
        return of.length > 0 && <Group key={id} job={job} name={name} items={of} />;
      })}
    </>
  );
}

function Group({ job, name, items }: { job: Of<'JobView'>; name: string; items: Of<'VanItem'>[] }) {
  const record = useRecord(job.id);
  const { kept } = useKept(job.id);
  const waits = (id: string) => kept.find((k) => !k.refused && k.record.kind === 'packed' && membersOf(k.record).subject === id);
  return (
    <Section>
      <Heading>{name}</Heading>
      {record.error && <Wrong>{record.error.message}</Wrong>}
      {items.map((i) => {
        const waiting = waits(i.id);
        const on = waiting ? membersOf(waiting.record).done === true : !!i.packed;
        return (
          <Block key={i.id} ruled data-van={i.id}>
            <Tick
              name={i.id}
              checked={on}
              disabled={job.view.frozen}
              onChange={(done) => record.mutate({ kind: 'packed', subject: i.id, done, note: '' })}
              label={
                <span>
                  <Mark verdict={i.verdict} size={14} /> <b>{i.name}</b> {i.count}
                  <Quiet block>
                    {i.says}
                    {i.charge && `. ${say('Charged?')}`}
                    {i.packed && ` · ${say('in: {{by}}, {{at}}', { by: i.packed.by, at: moment(i.packed.at) })}`}
                    {waiting && ` · ${say('kept here until there is a connection')}`}
                  </Quiet>
                </span>
              }
            />
          </Block>
        );
      })}
    </Section>
  );
}
