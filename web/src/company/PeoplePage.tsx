import { Shell, useFrame } from '../frame/Shell';
import { Page, Title } from '../parts/layout';
import { say } from '../words/words';
import { Account } from './Account';
import { Happenings } from './Happenings';
import { LeftWrites } from './LeftWrites';
import { People } from './People';

/** The people of the company, what their ended devices left for decision, and one's own account. */
export function PeoplePage() {
  const { me } = useFrame();
  return (
    <Shell crumb={say('People')}>
      <Page most={1000}>
        <Title>{me.decides ? say('People') : say('My account')}</Title>
        {me.decides && <LeftWrites />}
        {me.decides && <People />}
        <Account />
        {me.owns && <Happenings />}
      </Page>
    </Shell>
  );
}
