import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useSubstitute, useSubstitutes } from '../../api/goods';
import type { Part } from '../../api/part';
import { useFrame } from '../../frame/Shell';
import { money } from '../../parts/figure';
import { Block, List, Quiet, Row, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SheetLink } from '../../parts/SheetLink';
import { say } from '../../words/words';

interface Props {
  job: Of<'JobView'>;
  line: Of<'TakeLine'>;
  part: Part<Of<'Materials'>>;
}

/** What may be taken where the merchant does not have a product: as the rules judge it, on somebody's word, or not at all. */
export function Instead({ job, line, part }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Block above="s" className="no-print" data-instead={line.key}>
      {!open && (
        <Button disabled={part.frozen} onClick={() => setOpen(true)}>
          {say('Something else in its place …')}
        </Button>
      )}
      {open && <Judged job={job} line={line} part={part} />}
    </Block>
  );
}

function Judged({ job, line, part }: Props) {
  const { data, error } = useSubstitutes(job, line.key);
  if (!data) return error ? <Wrong>{error.message}</Wrong> : <p>{say('Judging what may be taken …')}</p>;
  if (data.may === 'like') return <Like line={line} part={part} />;
  if (data.may !== 'design')
    return (
      <Row>
        <Mark verdict={data.at ? 'caution' : 'fail'} size={14} /> <span>{data.why}</span>{' '}
        {data.at && <SheetLink job={job.id} at={data.at} />}
      </Row>
    );
  return <Options job={job} judged={data} unit={line.unit} />;
}

/** The products that the rules were asked about: those that do first. */
function Options({ job, judged, unit }: { job: Of<'JobView'>; judged: Of<'Substitutes'>; unit: string }) {
  const { me } = useFrame();
  const take = useSubstitute(job.id);
  return (
    <>
      {judged.options.length === 0 && <Quiet>{say('There is nothing of its kind that could stand in its place.')}</Quiet>}
      {judged.options.map((o) => (
        <Block key={o.key} ruled pad="xs" data-substitute={o.key}>
          <Row>
            <Mark verdict={o.does ? 'pass' : 'fail'} size={14} /> <b>{o.name}</b>
            {o.listed && <Quiet>{say('named by the company’s list')}</Quiet>}
            <Quiet>
              {o.extra === null || o.extra === undefined
                ? say('not on the price list')
                : say('{{more}} for one {{unit}}', { more: (o.extra > 0 ? '+' : '') + money(o.extra, me.currency), unit })}
            </Quiet>
            {o.does && (
              <Button disabled={take.isPending} onClick={() => take.mutate({ product: judged.product, instead: o.key })}>
                {say('Take it')}
              </Button>
            )}
          </Row>
          {o.fails.length > 0 && (
            <List>
              {o.fails.slice(0, 3).map((f) => (
                <li key={f}>{f}</li>
              ))}
            </List>
          )}
        </Block>
      ))}
      {take.error && <Wrong>{take.error.message}</Wrong>}
    </>
  );
}

/** One of the same kind and rating, on somebody's word. */
function Like({ line, part }: { line: Of<'TakeLine'>; part: Part<Of<'Materials'>> }) {
  const noted = part.value.instead?.[line.key];
  const [what, setWhat] = useState(noted?.what ?? '');
  const [why, setWhy] = useState(noted?.why ?? '');
  const keep = (to: Of<'Instead'> | undefined) => {
    const next = { ...part.value.instead };
    if (to) next[line.key] = to;
    else delete next[line.key];
    part.save('instead', next);
  };
  return (
    <Row align="end">
      <TextField
        sx={{ flex: '1 1 200px' }}
        label={say('What is taken: of the same kind and rating')}
        value={what}
        onChange={(e) => setWhat(e.target.value)}
        slotProps={{ htmlInput: { name: 'insteadWhat', maxLength: 200 } }}
      />
      <TextField
        sx={{ flex: '1 1 200px' }}
        label={say('Why, and who says that it does')}
        value={why}
        onChange={(e) => setWhy(e.target.value)}
        slotProps={{ htmlInput: { name: 'insteadWhy', maxLength: 400 } }}
      />
      <Button disabled={part.frozen || !what.trim() || !why.trim()} onClick={() => keep({ what, why })}>
        {say('Note it')}
      </Button>
      {noted && (
        <Button disabled={part.frozen} onClick={() => keep(undefined)}>
          {say('Take it back')}
        </Button>
      )}
    </Row>
  );
}
