import { styled } from '@mui/material/styles';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Of } from '../api/client';
import { useTerms } from '../api/job';
import { useDecide, useLeft } from '../api/people';
import { membersOf } from '../api/records';
import { shown } from '../parts/KeptRecords';
import { Heading, Item, Quiet, Row, Section, Wrong } from '../parts/layout';
import { moment, say } from '../words/words';

const Numbered = styled('ol')({ paddingLeft: 20 });

type Left = Of<'Left'>;

/** What a write is, in words. */
function about(w: Left, kinds: Of<'Named'>[] = []): string {
  if (w.what === 'photo') return say('A picture');
  if (w.what === 'walk') return [say('Survey'), (w.body as { text?: string } | null)?.text].filter(Boolean).join(' · ');
  if (w.what === 'part') return say('A change of a sheet');
  const record = w.body as Of<'NewRecord'>;
  const r = membersOf(record);
  return [kinds.find((k) => k.id === record.kind)?.name ?? record.kind, r.circuit, r.subject, r.source, r.lockTag, shown(record), r.note]
    .filter(Boolean)
    .join(' · ');
}

function LeftWrite({ left }: { left: Left }) {
  const decide = useDecide();
  const kinds = useTerms().data?.records;
  const [aside, setAside] = useState(false);
  const [reason, setReason] = useState('');
  return (
    <Item below="m">
      <b>{left.person}</b>, <Link to={`/jobs/${left.jobId}/survey`}>{left.ref}</Link>: {about(left, kinds)}{' '}
      <Quiet>{moment(left.occurredAt)}</Quiet>
      {decide.error && <Wrong>{decide.error.message}</Wrong>}
      <Row above="xs">
        <Button size="small" variant="contained" disabled={decide.isPending} onClick={() => decide.mutate({ id: left.id, take: true })}>
          {say('Take it over')}
        </Button>
        <Button size="small" aria-expanded={aside} onClick={() => setAside(!aside)}>
          {say('Set it aside')}
        </Button>
      </Row>
      {aside && (
        <Row above="s" data-why>
          <TextField size="small" label={say('Why')} value={reason} onChange={(e) => setReason(e.target.value)} />
          <Button
            size="small"
            variant="contained"
            disabled={!reason.trim() || decide.isPending}
            onClick={() => decide.mutate({ id: left.id, take: false, reason: reason.trim() })}
          >
            {say('Set it aside')}
          </Button>
        </Row>
      )}
    </Item>
  );
}

/** What waited on a device when its session was ended: taken over in the name of who made it, or set aside. */
export function LeftWrites() {
  const left = useLeft();
  if (left.error) return <Wrong>{left.error.message}</Wrong>;
  if (!left.data?.length) return null;
  return (
    <Section id="left">
      <Heading>{say('Left on devices')}</Heading>
      <p>
        <Quiet>
          {say(
            'Their sessions were ended before these were sent. What you take over stands in the name of who made it, as of when, and is judged now.',
          )}
        </Quiet>
      </p>
      <Numbered>
        {left.data.map((w) => (
          <LeftWrite key={w.id} left={w} />
        ))}
      </Numbered>
    </Section>
  );
}

/** Says in one line that something waits for decision, and where. */
export function LeftLine() {
  const n = useLeft().data?.length ?? 0;
  if (!n) return null;
  return (
    <p role="status">
      <Link to="/people#left">
        {n === 1
          ? say('1 entry left on a device waits for your decision')
          : say('{{n}} entries left on devices wait for your decision', { n })}
      </Link>
    </p>
  );
}
