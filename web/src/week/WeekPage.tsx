import { Button } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { useWeek } from '../api/days';
import { Shell, useFrame } from '../frame/Shell';
import { Heading, P, Page, Quiet, Row, Section, Title, Wrong } from '../parts/layout';
import { Dangers } from '../parts/Dangers';
import { dayName } from '../parts/dayName';
import { say } from '../words/words';
import { CrewWeek } from './CrewWeek';
import { JobWeek } from './JobWeek';
import { Outlook } from './Outlook';
import { ProposeDays } from './ProposeDays';

const shifted = (day: string, by: number) => {
  const at = new Date(`${day}T12:00:00Z`);
  at.setUTCDate(at.getUTCDate() + by);
  return at.toISOString().slice(0, 10);
};

/** The week of the company: who does what on which day, what each job waits for, and what slipped. For the office. */
export function WeekPage() {
  const { me } = useFrame();
  const [from, setFrom] = useState('');
  const [proposing, setProposing] = useState(false);
  const [outlook, setOutlook] = useState(false);
  const week = useWeek(from);
  const w = week.data;
  return (
    <Shell crumb={say('The week')} actions={[]} shortcuts={[]}>
      <Page most={1280}>
        <Row below="m">
          <Title>{say('The week')}</Title>
          {w && (
            <>
              <Button aria-label={say('The week before')} onClick={() => setFrom(shifted(w.days[0], -7))}>
                ‹
              </Button>
              <Quiet data-week>
                {dayName(w.days[0])} – {dayName(w.days[6])}
              </Quiet>
              <Button aria-label={say('The week after')} onClick={() => setFrom(shifted(w.days[0], 7))}>
                ›
              </Button>
              <Button disabled={!from} onClick={() => setFrom('')}>
                {say('This week')}
              </Button>
            </>
          )}
          {!proposing && me.role !== 'apprentice' && <Button onClick={() => setProposing(true)}>{say('Propose days')}</Button>}
          {!outlook && me.role !== 'apprentice' && <Button onClick={() => setOutlook(true)}>{say('Away and weather')}</Button>}
          <Link to="/jobs">{say('All jobs')}</Link>
          <Link to="/today">{say('Today')}</Link>
        </Row>
        <Dangers />
        {outlook && w && <Outlook people={w.people} days={w.days.filter((d) => d > w.today)} onClose={() => setOutlook(false)} />}
        {proposing && <ProposeDays onClose={() => setProposing(false)} />}
        {week.isPending && <P>{say('Looking …')}</P>}
        {week.error && <Wrong>{week.error.message}</Wrong>}
        {w && (
          <>
            <Section>
              <Heading>{say('Crew')}</Heading>
              <CrewWeek week={w} />
            </Section>
            <Section>
              <Heading>{say('Jobs')}</Heading>
              {w.jobs.length === 0 && (
                <P>{say('Nothing is planned. On the Plan sheet of a job steps are given to people and days; they then stand here.')}</P>
              )}
              {w.jobs.map((j) => (
                <JobWeek key={j.id} job={j} days={w.days} today={w.today} />
              ))}
            </Section>
          </>
        )}
      </Page>
    </Shell>
  );
}
