import type { Of } from '../../api/client';
import { Bad, Heading, Item, List, P, Quiet, Section } from '../../parts/layout';
import { moment, say } from '../../words/words';

/** How far a circuit has left the installation: it counts as live until both its ends were proved dead. */
export function Leaving({ circuit, leaving }: { circuit: Of<'Circuit'>; leaving: Of<'Leaving'> }) {
  const removed = circuit.state === 'removed';
  const done = (r: Of<'Record'> | null) => (r ? say('{{name}}, {{date}}', { name: r.by, date: moment(r.at) }) : '');
  return (
    <Section data-leaving={leaving.parted ? (leaving.cleared ? 'gone' : 'parted') : 'abandoned'}>
      <Heading>{removed ? say('Taken out') : say('Left unconnected')}</Heading>
      {!leaving.parted && (
        <P>
          <Bad>{say('Not yet proved dead: its cable counts as live, wherever it lies and whatever is switched off.')}</Bad>
        </P>
      )}
      <List>
        <Item>
          {say('Both ends found, proved dead and taken off:')}{' '}
          {done(leaving.parted) || <Quiet>{say('to be ticked on First fix, under an isolation')}</Quiet>}
        </Item>
        <Item>
          {removed
            ? say('Cable and points out, what stays in the wall capped and labelled at both ends:')
            : say('Every conductor capped, both ends labelled:')}{' '}
          {done(leaving.cleared) || <Quiet>{say('to be ticked on First fix')}</Quiet>}
        </Item>
      </List>
      <P small quiet>
        {say('No rule is asked of it, nothing is bought for it but covers and labels, and its way is free for another circuit.')}
      </P>
    </Section>
  );
}
