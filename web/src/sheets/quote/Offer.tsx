import { Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useAnswerQuote, useOffer } from '../../api/quote';
import { useFrame } from '../../frame/Shell';
import { money } from '../../parts/figure';
import { Block, Boxed, Caution, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { OneOf } from '../../parts/OneOf';
import { moment, say } from '../../words/words';
import { Open } from './Open';
import { upTo } from './priceSays';
import { SignaturePad } from './SignaturePad';

type Sheet = Of<'QuoteSheet'>;

/** What was offered, what the client made of it, and the next offer. */
export function Offer({ job, j, sheet }: { job: Of<'JobView'>; j: Of<'Job'>; sheet: Sheet }) {
  const last = sheet.offers[0];
  return (
    <>
      {sheet.agreed && <Agreed agreed={sheet.agreed} />}
      {last && !last.answer && <Answer key={last.offer.id} job={job} j={j} offered={last} />}
      {!sheet.agreed && <NextOffer job={job} sheet={sheet} />}
      <Offers job={job} offers={sheet.offers} />
    </>
  );
}

/** The price as it is now, to be offered; or why it cannot be. */
function NextOffer({ job, sheet }: { job: Of<'JobView'>; sheet: Sheet }) {
  const { me } = useFrame();
  const offer = useOffer(job.id);
  const [note, setNote] = useState('');
  const { price } = sheet;
  const open = sheet.offers[0]?.state === 'open';
  if (open) return null;
  return (
    <Section>
      <Heading>{sheet.offers.length ? say('Offer it again') : say('Offer the price')}</Heading>
      <P above="none">
        {say('{{sum}}, until {{day}}. It is kept as it is; whatever changes afterwards needs another offer.', {
          sum: upTo(price.sum.total, price.sum.high, me.currency),
          day: sheet.valid,
        })}
      </P>
      <Open job={job} sheet={sheet} />
      <Row align="end">
        <TextField
          sx={{ flex: '1 1 260px', maxWidth: 480 }}
          label={say('Remark on the offer')}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { name: 'offerNote', maxLength: 400 } }}
        />
        <Button
          variant="contained"
          disabled={offer.isPending || job.view.frozen || price.lacks.length > 0}
          onClick={() => offer.mutate({ tag: sheet.tag, note }, { onSuccess: () => setNote('') })}
        >
          {say('Offer it')}
        </Button>
      </Row>
      {offer.error && <Wrong>{offer.error.message}</Wrong>}
    </Section>
  );
}

/** For the client: the options, the price that they come to, and the signature. */
function Answer({ job, j, offered }: { job: Of<'JobView'>; j: Of<'Job'>; offered: Of<'QuoteOffered'> }) {
  const { me } = useFrame();
  const answer = useAnswerQuote(job.id);
  const quoted = offered.offer.quoted;
  const [taken, setTaken] = useState<string[]>([]);
  const [person, setPerson] = useState(j.site.customer);
  const [way, setWay] = useState<'screen' | 'paper'>('screen');
  const [drawn, setDrawn] = useState('');
  const [signed, setSigned] = useState(false);
  const [note, setNote] = useState('');
  if (!quoted) return null;
  const chosen = quoted.options.filter((o) => taken.includes(o.id));
  const more = (of: (o: Of<'Priced'>) => number) => chosen.reduce((sum, o) => sum + of(o), 0);
  const ready = person.trim() !== '' && (way === 'screen' ? drawn !== '' : signed);
  const send = (path: 'accepted' | 'declined') =>
    answer.mutate({
      offer: offered.offer.id,
      path,
      person,
      signed: way === 'paper' && signed,
      drawn: way === 'screen' ? drawn : '',
      witness: '',
      note,
      taken: path === 'accepted' ? taken : [],
    });
  return (
    <Section>
      <Heading>{say('Quote {{number}}', { number: offered.offer.reference })}</Heading>
      <P above="none">
        <Mark verdict={offered.state === 'open' ? 'unknown' : 'fail'} size={14} /> {offered.says}
      </P>
      {quoted.options.map((o) => (
        <Block key={o.id} ruled pad="xs">
          <FormControlLabel
            control={
              <Checkbox
                checked={taken.includes(o.id)}
                slotProps={{ input: { name: `option-${o.id}` } }}
                onChange={(e) => setTaken(e.target.checked ? [...taken, o.id] : taken.filter((x) => x !== o.id))}
              />
            }
            label={`${o.name}: +\u00a0${upTo(o.sum, o.high, me.currency)}`}
          />
          <P around="xs" small quiet>
            {say('Without it: {{what}}', { what: o.without ?? '' })}
          </P>
        </Block>
      ))}
      <P>
        {say('Price with what is ticked:')}{' '}
        <b data-chosen>{upTo(quoted.total + more((o) => o.sum), quoted.high + more((o) => Math.max(o.high, o.sum)), me.currency)}</b>
      </P>
      <Boxed tone="copper">
        <TextField
          sx={{ maxWidth: 320 }}
          fullWidth
          label={say('Who answers')}
          value={person}
          onChange={(e) => setPerson(e.target.value)}
          slotProps={{ htmlInput: { name: 'answers', maxLength: 120 } }}
        />
        <Block around="s">
          <OneOf
            label={say('Signed')}
            value={way}
            onChange={setWay}
            choices={[
              { id: 'screen', name: say('On this screen') },
              { id: 'paper', name: say('On paper') },
            ]}
          />
        </Block>
        {way === 'screen' ? (
          <SignaturePad value={drawn} onChange={setDrawn} by={person} />
        ) : (
          <FormControlLabel
            control={
              <Checkbox checked={signed} slotProps={{ input: { name: 'signedOnPaper' } }} onChange={(e) => setSigned(e.target.checked)} />
            }
            label={say('{{by}} has signed the printed quote', { by: person || say('The person') })}
          />
        )}
        <TextField
          fullWidth
          sx={{ marginTop: 1 }}
          label={say('What was said; the reason, where it is declined')}
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { name: 'answerNote', maxLength: 400 } }}
        />
        <Row above="s">
          <Button
            variant="contained"
            disabled={!ready || answer.isPending || offered.state !== 'open' || job.view.frozen}
            onClick={() => send('accepted')}
          >
            {say('Accept the quote')}
          </Button>
          <Button disabled={!person.trim() || !note.trim() || answer.isPending || job.view.frozen} onClick={() => send('declined')}>
            {say('Decline the quote')}
          </Button>
        </Row>
        <Quiet>{say('What is left unticked is declined: it leaves the plan and stands in the handover pack with what it means.')}</Quiet>
        {answer.error && <Wrong>{answer.error.message}</Wrong>}
      </Boxed>
    </Section>
  );
}

/** What was agreed beside what the job comes to now. */
function Agreed({ agreed }: { agreed: Of<'QuoteAgreed'> }) {
  const { me } = useFrame();
  return (
    <Section data-agreed>
      <Heading>{say('Agreed')}</Heading>
      <Row>
        <span>{say('With the quote')}</span> <b>{money(agreed.offer, me.currency)}</b>
      </Row>
      {(agreed.variations !== 0 || agreed.unpriced > 0) && (
        <Row>
          <span>{say('Variations since, without tax')}</span> <b>{money(agreed.variations, me.currency)}</b>
          {agreed.unpriced > 0 && <Quiet>{say('{{n}} without a price', { n: agreed.unpriced })}</Quiet>}
        </Row>
      )}
      <Row>
        <span>{say('The job as it stands comes to')}</span> <b>{money(agreed.now, me.currency)}</b>
      </Row>
      {agreed.over > 1 && (
        <Caution>
          {say(
            'That is {{sum}} more than was agreed. Whatever the client is to pay beside the quote is a variation, accepted before the work.',
            {
              sum: money(agreed.over, me.currency),
            },
          )}
        </Caution>
      )}
    </Section>
  );
}

/** Everything that was offered, newest first. */
function Offers({ job, offers }: { job: Of<'JobView'>; offers: Of<'QuoteOffered'>[] }) {
  const { me } = useFrame();
  return (
    <Section>
      <Heading>{say('Offers')}</Heading>
      {offers.length === 0 && <Quiet>{say('Nothing was offered yet.')}</Quiet>}
      {offers.map((o, i) => (
        <Block key={o.offer.id} ruled pad="s" data-offer={o.state}>
          <Mark verdict={o.state === 'accepted' ? 'pass' : o.state === 'open' ? 'unknown' : 'caution'} size={14} />{' '}
          <b>{o.offer.reference}</b> {money(o.offer.cost, me.currency)} · {o.says} ·{' '}
          {say('offered by {{by}}, {{at}}', { by: o.offer.by, at: moment(o.offer.at) })}
          {o.offer.note && <Quiet> {o.offer.note}</Quiet>}
          {i === 0 && (
            <Row above="xs" className="no-print">
              <a href={`/api/jobs/${job.id}/quote.pdf`}>{say('PDF by piece')}</a>{' '}
              <a href={`/api/jobs/${job.id}/quote.pdf?rooms=true`}>{say('PDF by room')}</a>
            </Row>
          )}
          {o.answer?.priced?.map((x) => (
            <P key={x.id} around="xs" small>
              {x.taken ? say('Taken: {{name}}', { name: x.name }) : say('Declined: {{name}}', { name: x.name })}
            </P>
          ))}
        </Block>
      ))}
    </Section>
  );
}
