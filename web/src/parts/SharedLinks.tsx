import { Button } from '@mui/material';
import type { Of } from '../api/client';
import { useUnshare } from '../api/links';
import { moment, say } from '../words/words';
import { Boxed, Item, List, Quiet, Row, Wrong } from './layout';

/** A link that was just made. Its secret is kept nowhere: it is shown once. */
export function FreshLink({ made, says }: { made: Of<'MadeLink'>; says: string }) {
  const link = window.location.origin + made.link;
  return (
    <Boxed role="status" style={{ marginTop: 8 }} data-fresh-link={made.link}>
      {says} {say('It is shown once and good until {{until}}.', { until: made.shared.until.slice(0, 10) })}
      <Row above="s">
        <code style={{ overflowWrap: 'anywhere' }}>{link}</code>
        <Button size="small" onClick={() => void navigator.clipboard.writeText(link)}>
          {say('Copy it')}
        </Button>
      </Row>
    </Boxed>
  );
}

/** Links that are good, each of which can be withdrawn. */
export function SharedLinks({ links }: { links: Of<'SharedLink'>[] }) {
  const unshare = useUnshare();
  return (
    <>
      {unshare.error && <Wrong>{unshare.error.message}</Wrong>}
      <List>
        {links.map((l) => (
          <Item key={l.id} data-link-of={l.subject || l.kind}>
            {say('Link by {{by}}, {{at}}', { by: l.by, at: moment(l.at) })}{' '}
            <Quiet>
              {[
                say('good until {{until}}', { until: l.until.slice(0, 10) }),
                l.readAt ? say('last read {{when}}', { when: moment(l.readAt) }) : say('not read yet'),
              ].join(' · ')}
            </Quiet>{' '}
            <Button size="small" disabled={unshare.isPending} onClick={() => unshare.mutate(l.id)}>
              {say('Withdraw')}
            </Button>
          </Item>
        ))}
      </List>
    </>
  );
}
