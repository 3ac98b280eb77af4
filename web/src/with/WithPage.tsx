import { styled } from '@mui/material/styles';
import type { Of } from '../api/client';
import { useWith } from '../api/links';
import { dayName } from '../parts/dayName';
import { Bad, Caution, Details, Heading, List, P, Quiet, Section, Title, Wrong } from '../parts/layout';
import { BackCharges } from '../parts/BackCharges';
import { PowerDays } from '../parts/PowerDays';
import { moment, placeAt, say, speak } from '../words/words';

const Sheet = styled('main')({ maxWidth: 760, margin: '0 auto', padding: '20px 16px 40px' });

/** What another trade reads of a job by its link. The link stands behind the sign, which is sent to no server. */
export function WithPage() {
  const page = useWith(window.location.hash.slice(1));
  return (
    <Sheet>
      {page.isPending && <P>{say('Looking …')}</P>}
      {page.error && <Wrong>{page.error.message}</Wrong>}
      {page.data && <TradeSheet page={page.data} />}
    </Sheet>
  );
}

function TradeSheet({ page: p }: { page: Of<'TradePage'> }) {
  const { sheet: s } = p;
  placeAt(p.locale, p.timezone);
  speak(p.locale);
  const t = s.trade;
  const on = s.use.filter((u) => u.inUse);
  const off = s.use.filter((u) => !u.inUse);
  const line = (u: Of<'CircuitInUse'>) => (
    <li key={`${u.circuit} ${u.name}`}>
      <b>{u.name}</b> {u.where} <Quiet>{u.says}</Quiet>
    </li>
  );
  return (
    <>
      <Title>{s.stand.name}</Title>
      <P around="xs">
        {s.ref} · {[s.address, s.town].filter(Boolean).join(', ')}
      </P>
      <P around="xs">
        {say('Electrical work: {{company}}', { company: p.company })}
        {p.phone && (
          <>
            {' · '}
            <a href={`tel:${p.phone.replace(/\s/g, '')}`}>{p.phone}</a>
          </>
        )}
      </P>
      {s.dangers.map((d) => (
        <Bad key={d} style={{ display: 'block' }}>
          {say('Danger now: {{what}}', { what: d })}
        </Bad>
      ))}
      <Section>
        <Heading>{t.what ? say('Your work: {{what}}', { what: t.what }) : say('Your work')}</Heading>
        <P around="xs" strong data-says>
          {s.stand.says}
        </P>
        {s.stand.clash && <Bad style={{ display: 'block' }}>{s.stand.clash}</Bad>}
        {t.promised && <P around="xs">{say('You promised it for {{day}}.', { day: dayName(t.promised) })}</P>}
        {t.by && <P around="xs">{say('You need ours by {{day}}.', { day: dayName(t.by) })}</P>}
        {t.needs && <P around="xs">{say('We need of you: {{what}}', { what: t.needs })}</P>}
        {s.rooms.length > 0 && (
          <List>
            {s.rooms.map((r) => (
              <li key={r.name}>
                <b>{r.name}</b>{' '}
                <Quiet>
                  {r.closed
                    ? say('walls closed on {{day}}', { day: dayName(r.closed) })
                    : r.open > 0
                      ? say('{{n}} of our steps are open, next: {{next}}', { n: r.open, next: r.next })
                      : say('our part is done')}
                </Quiet>
              </li>
            ))}
          </List>
        )}
      </Section>
      {s.charges.length > 0 && (
        <Section>
          <Heading>{say('Moved or covered of ours')}</Heading>
          <BackCharges charges={s.charges} currency={p.currency} />
        </Section>
      )}
      {s.hazards.length > 0 && (
        <Section>
          <Heading>{say('To be careful of')}</Heading>
          {s.hazards.map((h) => (
            <Caution key={h}>{h}</Caution>
          ))}
        </Section>
      )}
      <Section>
        <Heading>{say('What is in use')}</Heading>
        <Caution>
          {say(
            'This is information and no leave to touch anything. Treat every cable as live; who has to touch one asks the electrical contractor, who proves it dead.',
          )}
        </Caution>
        <List data-use>{on.map(line)}</List>
        {on.length === 0 && <P around="xs">{say('No circuit is noted that is in use.')}</P>}
        {off.length > 0 && (
          <Details>
            <summary>{say('Not in use: {{n}}', { n: off.length })}</summary>
            <List>{off.map(line)}</List>
          </Details>
        )}
        <PowerDays days={s.power} />
      </Section>
      <Quiet block>{say('As of {{now}}. The link is good until {{until}}.', { now: moment(s.at), until: p.until.slice(0, 10) })}</Quiet>
    </>
  );
}
