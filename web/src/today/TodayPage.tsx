import { Link } from 'react-router';
import { useToday } from '../api/days';
import { Shell } from '../frame/Shell';
import { Heading, P, Page, Quiet, Row, Section, Title, Wrong } from '../parts/layout';
import { Dangers } from '../parts/Dangers';
import { dayName } from '../parts/dayName';
import { say } from '../words/words';
import { AheadJob } from './AheadJob';
import { DayJob } from './DayJob';

/** The day of somebody on site: their jobs in order, the next step of the first one large. On a phone, gloves half off. */
export function TodayPage() {
  const today = useToday();
  const jobs = today.data?.jobs;
  return (
    <Shell crumb={say('Today')} actions={[]} shortcuts={[]}>
      <Page most={760}>
        <Row below="s">
          <Title>{say('Today')}</Title>
          <Quiet>{today.data && dayName(today.data.day)}</Quiet>
          <Link to="/jobs">{say('All jobs')}</Link>
          <Link to="/week">{say('The week')}</Link>
          {today.data?.next && <a href="#ahead">{say('Ahead: {{day}}', { day: dayName(today.data.next) })}</a>}
        </Row>
        <Dangers />
        {today.isPending && <P>{say('Looking …')}</P>}
        {today.error && <Wrong>{today.error.message}</Wrong>}
        {jobs?.length === 0 && (
          <P data-nothing>
            {say(
              'Nothing is planned for you today, and no lock of yours is in place. Whoever plans gives steps to people on the Plan sheet of a job.',
            )}
          </P>
        )}
        {jobs?.map((j, n) => (
          <DayJob key={j.id} j={j} first={n === 0} />
        ))}
        {today.data?.next && (
          <Section id="ahead" data-next-day={today.data.next}>
            <Heading>{say('Ahead: {{day}}', { day: dayName(today.data.next) })}</Heading>
            {today.data.ahead.map((j) => (
              <AheadJob key={j.id} j={j} day={today.data.next} />
            ))}
          </Section>
        )}
      </Page>
    </Shell>
  );
}
