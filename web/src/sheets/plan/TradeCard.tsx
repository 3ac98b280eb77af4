import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { useTerms } from '../../api/job';
import { useShareJob } from '../../api/links';
import type { Part } from '../../api/part';
import { DateBox } from '../../parts/DateBox';
import { ChoiceBox, NumberBox, TextBox } from '../../parts/fields';
import { Bad, Block, Details, Fields, Quiet, Row, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { FreshLink, SharedLinks } from '../../parts/SharedLinks';
import { Tick } from '../../parts/Tick';
import { say } from '../../words/words';
import { BackCharges } from '../../parts/BackCharges';

interface TradeCardProps {
  job: string;
  rooms: Of<'Room'>[];
  part: Part<Of<'Plan'>>;
  /** Its place in the list. */
  at: number;
  /** How it stands, once that is computed. */
  stand?: Of<'TradeStand'>;
  links: Of<'SharedLink'>[];
  charges: Of<'BackCharge'>[];
  currency: string;
}

/** One trade: how it stands with it, what was asked and promised, and its link. */
export function TradeCard({ job, rooms, part, at, stand: s, links, charges, currency }: TradeCardProps) {
  const terms = useTerms().data;
  const share = useShareJob(job);
  const t = part.value.trades[at];
  const p = `trades[${at}]` as const;
  const kind = terms?.trades.find((k) => k.id === t.kind)?.name ?? t.kind;
  const wrong = Object.entries(part.errors).find(([f]) => f === `plan.${p}.rooms` || f === `plan.${p}.id`)?.[1];
  const verdict = s?.late ? 'fail' : s?.done || s?.ready ? 'pass' : 'unknown';
  return (
    <Block ruled pad="s" data-trade={t.id}>
      <Row>
        <Mark verdict={verdict} size={14} label={s?.late ? say('late') : s?.done ? 'done' : s?.ready ? say('ready') : say('waits')} />
        <b>{kind}</b>
        <span>{[t.who, t.what, s?.rooms].filter(Boolean).join(' · ')}</span>
        {t.phone && <a href={`tel:${t.phone.replace(/\s/g, '')}`}>{t.phone}</a>}
      </Row>
      {s && (
        <Quiet block data-says>
          {s.says}
        </Quiet>
      )}
      <BackCharges charges={charges} currency={currency} />
      {s?.clash && <Bad style={{ display: 'block' }}>{s.clash}</Bad>}
      <Details open={!t.what && !t.who}>
        <summary>{say('What is agreed')}</summary>
        <Fields least={190}>
          <ChoiceBox part={part} path={`${p}.kind`} label={say('Trade')} options={terms?.trades ?? []} />
          <TextBox part={part} path={`${p}.what`} label={say('What they do')} />
          <TextBox part={part} path={`${p}.who`} label={say('Firm or person')} />
          <TextBox part={part} path={`${p}.phone`} label={say('Telephone')} />
          <ChoiceBox part={part} path={`${p}.waits`} label={say('Who waits')} options={terms?.tradeWaits ?? []} />
          <DateBox part={part} path={`${p}.asked`} label={say('Asked on')} />
          <DateBox part={part} path={`${p}.promised`} label={say('Promised for')} />
          <DateBox part={part} path={`${p}.by`} label={say('They need ours by')} />
          <DateBox part={part} path={`${p}.done`} label={t.waits.startsWith('they') ? say('They began on') : say('Done on')} />
          <NumberBox
            part={part}
            path={`${p}.dryDays`}
            label={say('Dries or sets for')}
            unit={say('days')}
            help={say('before ours goes on')}
          />
          <TextBox part={part} path={`${p}.known`} label={say('By what that is known')} help={say('who said so, or who has seen it')} />
          <TextBox part={part} path={`${p}.needs`} label={say('What we need of them')} help={say('it stands on their sheet')} lines={2} />
        </Fields>
        {rooms.length > 0 && (
          <Row gap="s">
            <Quiet>{t.rooms.length === 0 ? say('In the whole house, or only in:') : say('In:')}</Quiet>
            {rooms.map((r) => (
              <Tick
                key={r.id}
                name={`trade-${t.id}-${r.id}`}
                label={r.name}
                checked={t.rooms.includes(r.id)}
                disabled={part.frozen}
                onChange={(on) => part.save(`${p}.rooms`, on ? [...t.rooms, r.id] : t.rooms.filter((x) => x !== r.id))}
              />
            ))}
          </Row>
        )}
        {wrong && <Wrong>{wrong}</Wrong>}
        <Row gap="s" above="s">
          <Button disabled={part.frozen || share.isPending} onClick={() => share.mutate({ kind: 'trade', subject: t.id })}>
            {say('Make a link for them')}
          </Button>
          <Button
            disabled={part.frozen}
            onClick={() =>
              part.save(
                'trades',
                part.value.trades.filter((x) => x.id !== t.id),
              )
            }
          >
            {say('Take out')}
          </Button>
        </Row>
      </Details>
      {share.error && <Wrong>{share.error.message}</Wrong>}
      {share.data && (
        <FreshLink
          made={share.data}
          says={say('By this they read their sheet without signing in: address, rooms, dates, what is in use. No way in, no alarm.')}
        />
      )}
      {links.length > 0 && <SharedLinks links={links} />}
    </Block>
  );
}
