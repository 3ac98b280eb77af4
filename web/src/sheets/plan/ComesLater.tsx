import { Button } from '@mui/material';
import { useRef } from 'react';
import { useMutation } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { newKey, type Of } from '../../api/client';
import { makeVisit, useCase, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { Bare, Block, Grow, Heading, Item, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { say } from '../../words/words';
import { boardsOf } from '../board/ways';

type Plan = Of<'Plan'>;

/** What is planned for after the job: what the job leaves is held against it now, and its visit is made from it. */
export function ComesLater({ job, j, part }: { job: Of<'JobView'>; j: Of<'Job'>; part: Part<Plan> }) {
  const terms = useTerms().data;
  const reports = useCase(job.id).data?.later ?? [];
  return (
    <Section data-later>
      <Heading aside={<SaveLine part={part} />}>{say('What comes later')}</Heading>
      <p>
        <Quiet>
          {say(
            'What is planned for after this job is tried on it as it stands: ways, demand and the devices on its way. Nothing of it is ordered.',
          )}
        </Quiet>
      </p>
      <EditTable
        part={part}
        path="later"
        label={say('What comes later')}
        add={say('Add a planned change')}
        newRow={(rows) => {
          let n = rows.length + 1;
          while (rows.some((r) => r.id === `later${n}`)) n++;
          return {
            id: `later${n}`,
            kind: 'charger' as const,
            room: '',
            becomes: '',
            board: '',
            powerW: 0,
            from: '',
            note: '',
            visit: '',
          };
        }}
        columns={[
          {
            key: 'kind',
            label: say('What'),
            kind: 'choice',
            width: 170,
            options: [
              { id: 'charger', name: say('charge point') },
              { id: 'solar', name: say('solar generation') },
              { id: 'battery', name: say('battery storage') },
              { id: 'room', name: say('a room becomes another') },
            ],
          },
          {
            key: 'room',
            label: say('Room'),
            kind: 'choice',
            width: 140,
            options: [{ id: '', name: say('not said') }, ...j.rooms.map((r) => ({ id: r.id, name: r.name }))],
          },
          {
            key: 'becomes',
            label: say('Becomes'),
            kind: 'choice',
            width: 120,
            hide: (r) => r.kind !== 'room',
            options: [{ id: '', name: say('not said') }, ...(terms?.survey.rooms ?? [])],
          },
          {
            key: 'board',
            label: say('Board'),
            kind: 'choice',
            width: 110,
            options: boardsOf(j).map((b) => ({ id: b.id, name: b.name || say('main board') })),
          },
          { key: 'powerW', label: say('Power'), unit: 'W', kind: 'number', zero: true, width: 80 },
          { key: 'from', label: say('From, as 2027-05-01'), width: 120 },
          { key: 'note', label: say('Note') },
        ]}
      />
      {reports.map((r) => (
        <Planned key={r.id} job={job} r={r} visit={j.plan.later.find((l) => l.id === r.id)?.visit ?? ''} />
      ))}
    </Section>
  );
}

/** What one planned change meets, and the visit that is made for it. */
function Planned({ job, r, visit }: { job: Of<'JobView'>; r: Of<'LaterReport'>; visit: string }) {
  const go = useNavigate();
  const key = useRef(newKey());
  const make = useMutation({
    mutationFn: () => makeVisit(job.id, { later: r.id }, key.current),
    onSuccess: (made) => void go(`/jobs/${made.id}/survey`),
  });
  return (
    <Block ruled pad="s" data-planned={r.id}>
      <Row>
        <Grow as="b" from={240}>
          <Mark verdict={r.suits ? 'pass' : r.effects.some((e) => e.kind === 'breaks') ? 'fail' : 'unknown'} size={14} /> {r.name}
        </Grow>
        {visit ? (
          <Quiet>{say('visit {{ref}}', { ref: visit })}</Quiet>
        ) : (
          <Button disabled={make.isPending} onClick={() => make.mutate()}>
            {say('Make the visit')}
          </Button>
        )}
      </Row>
      <Bare aria-label={say('What it meets')}>
        {r.circuits.map((c) => (
          <Item key={c.id} pad="xs">
            {c.new
              ? say('{{name}}: a circuit of its own', { name: c.name })
              : say('{{name}} gains {{points}}', { name: c.name, points: c.gains.join(', ') })}
            {c.way > 0 && c.new && say(', on the free place {{n}}', { n: c.way })}
          </Item>
        ))}
        {r.effects.map((e, i) => (
          <Item key={i} pad="xs">
            <Mark verdict={e.kind === 'breaks' ? 'fail' : e.known ? 'pass' : 'unknown'} size={13} /> {e.summary}
          </Item>
        ))}
        {r.suits && <Item pad="xs">{say('As far as is known, what this job leaves suits it.')}</Item>}
      </Bare>
      {make.error && <Wrong>{make.error.message}</Wrong>}
    </Block>
  );
}
