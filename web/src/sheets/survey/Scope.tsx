import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCase } from '../../api/job';
import { useRecord } from '../../api/records';
import { useFrame } from '../../frame/Shell';
import { money } from '../../parts/figure';
import { Block, Grow, Heading, List, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { NewVariation, reasons } from './NewVariation';

/** What was agreed, what the client has changed since, and what each change brings before it is accepted. For the table, client beside. */
export function Scope({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const sheet = useCase(job.id).data;
  const record = useRecord(job.id);
  const { me } = useFrame();
  const [person, setPerson] = useState(j.site.customer);
  const scope = sheet?.scope;
  if (!scope) return <p>{say('Comparing …')}</p>;
  if (!scope.agreed)
    return (
      <Section>
        <Heading>{say('The scope is not agreed yet')}</Heading>
        <p>
          {say(
            'Until it is, points are simply edited. Once it is agreed, the walk as it stands is kept to compare with, ' +
              'and every change by the client is a variation with its consequences.',
          )}
        </p>
        <Row align="end">
          <TextField sx={{ maxWidth: 280 }} label={say('Who agrees')} value={person} onChange={(e) => setPerson(e.target.value)} />
          <Button
            variant="contained"
            disabled={job.view.frozen || j.rooms.length === 0}
            onClick={() => record.mutate({ kind: 'scope', person, note: say('as surveyed') })}
          >
            {say('Agree the scope as surveyed')}
          </Button>
          {j.rooms.length === 0 && <Quiet>{say('There is nothing to agree: the survey has no rooms.')}</Quiet>}
        </Row>
        {record.error && <Wrong>{record.error.message}</Wrong>}
      </Section>
    );
  return (
    <>
      <p>
        {say('Agreed by')} <b>{scope.agreed.person}</b>
        {say(', written down by {{by}}, {{at}}. ', { by: scope.agreed.by, at: moment(scope.agreed.at) })}
        {scope.unagreed > 0 && (
          <>
            <Mark verdict="caution" size={13} />{' '}
            {say('{{unagreed}} differences were edited into the survey without a variation.', { unagreed: scope.unagreed })}
          </>
        )}
      </p>
      <NewVariation job={job} j={j} />
      <Section>
        <Heading
          aside={
            scope.variations.length > 0 &&
            `${scope.variations.length}, ${money(scope.cost, me.currency)}` +
              (scope.unpriced ? say(', {{unpriced}} without a price', { unpriced: scope.unpriced }) : '')
          }
        >
          {say('Variations')}
        </Heading>
        {scope.variations.length === 0 && <p>{say('None since the scope was agreed.')}</p>}
        {scope.variations.length > 0 && (
          <Button component="a" href={`/api/jobs/${job.id}/variations.pdf`}>
            {say('Print for signing')}
          </Button>
        )}
        {scope.variations.map((v) => (
          <Block key={v.id} data-variation ruled pad="s">
            <Row>
              <Grow as="b" from={240}>
                {j.rooms.find((r) => r.id === v.room)?.name ?? say('a room that is gone')}: {v.note}
              </Grow>
              <span>{v.cost === null || v.cost === undefined ? say('not priced') : money(v.cost, me.currency)}</span>
            </Row>
            <Quiet>
              {v.path && `${say(reasons[v.path] ?? v.path)}. `}
              {say('Accepted by {{person}}, written down by {{by}}, {{at}}.', { person: v.person, by: v.by, at: moment(v.at) })}
            </Quiet>
            <List>
              {v.effects?.map((e, i) => (
                <li key={i}>{e}</li>
              ))}
            </List>
          </Block>
        ))}
      </Section>
      <Section>
        <Heading>{say('Against the scope that was first agreed')}</Heading>
        {scope.differences.length === 0 ? (
          <p>{say('Nothing differs.')}</p>
        ) : (
          <Scroll>
            <SheetTable aria-label={say('Differences from the agreed scope')}>
              <thead>
                <tr>
                  <th scope="col">{say('Room')}</th>
                  <th scope="col">{say('Point')}</th>
                  <th scope="col">{say('Agreed')}</th>
                  <th scope="col">{say('Now')}</th>
                </tr>
              </thead>
              <tbody>
                {scope.differences.map((d, i) => (
                  <tr key={i}>
                    <td>{d.room}</td>
                    <td>{d.name}</td>
                    <td>{counts(d.was)}</td>
                    <td>{counts(d.is)}</td>
                  </tr>
                ))}
              </tbody>
            </SheetTable>
          </Scroll>
        )}
      </Section>
    </>
  );
}

const counts = (c: Of<'PointCount'>) =>
  [
    c.new && say('{{new}} new', { new: c.new }),
    c.kept && say('{{kept}} to keep', { kept: c.kept }),
    c.moved && say('{{moved}} to move', { moved: c.moved }),
    c.removed && say('{{removed}} to remove', { removed: c.removed }),
  ]
    .filter(Boolean)
    .join(', ') || 'none';
