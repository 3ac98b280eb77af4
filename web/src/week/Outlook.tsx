import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../api/client';
import { useOutlook, useSetOutlook } from '../api/days';
import { dayName } from '../parts/dayName';
import { parseFigure } from '../parts/figure';
import { Caution, Fields, Heading, P, Quiet, Row, Section, Wrong } from '../parts/layout';
import { Pick } from '../parts/Pick';
import { say } from '../words/words';

interface OutlookProps {
  people: Of<'WeekPerson'>[];
  /** The days to come of the week that is looked at. */
  days: string[];
  onClose: () => void;
}

/** Who is away on days to come, and the weather of the week: what the days of steps are held to. */
export function Outlook({ people, days, onClose }: OutlookProps) {
  const outlook = useOutlook();
  const save = useSetOutlook();
  return (
    <Section data-outlook>
      <Heading aside={<Button onClick={onClose}>{say('Close')}</Button>}>{say('Away and weather')}</Heading>
      {outlook.isPending && <P>{say('Looking …')}</P>}
      {outlook.error && <Wrong>{outlook.error.message}</Wrong>}
      {save.error && <Wrong>{save.error.message}</Wrong>}
      {outlook.data && (
        <>
          <AwayList outlook={outlook.data} people={people} busy={save.isPending} onSave={save.mutate} />
          <WeatherOfWeek
            key={JSON.stringify(outlook.data.weather) + days.join()}
            outlook={outlook.data}
            days={days}
            busy={save.isPending}
            onSave={save.mutate}
          />
        </>
      )}
    </Section>
  );
}

interface ListProps {
  outlook: Of<'Outlook'>;
  busy: boolean;
  /** Nothing: a forecast is made up. */
  onSave: (o: Of<'Outlook'> | null) => void;
}

function AwayList({ outlook, people, busy, onSave }: ListProps & { people: Of<'WeekPerson'>[] }) {
  const [a, setA] = useState({ person: '', from: '', to: '', why: '' });
  const set = (change: Partial<typeof a>) => setA({ ...a, ...change });
  const name = (id: string) => (id ? (people.find((p) => p.id === id)?.name ?? say('somebody')) : say('The company is closed'));
  const date = (key: 'from' | 'to', label: string) => (
    <TextField
      type="date"
      label={label}
      value={a[key]}
      onChange={(e) => set({ [key]: e.target.value })}
      slotProps={{ htmlInput: { name: `away-${key}` }, inputLabel: { shrink: true } }}
    />
  );
  return (
    <>
      {outlook.away.length === 0 && <Quiet block>{say('Nobody is away.')}</Quiet>}
      {outlook.away.map((x, n) => (
        <Row key={`${x.person} ${x.from} ${x.to}`} data-away={name(x.person)}>
          <span>
            <b>{name(x.person)}</b> {dayName(x.from)}
            {x.to !== x.from && ` – ${dayName(x.to)}`} <Quiet>{x.why}</Quiet>
          </span>
          <Button size="small" disabled={busy} onClick={() => onSave({ ...outlook, away: outlook.away.filter((_, i) => i !== n) })}>
            {say('Take out')}
          </Button>
        </Row>
      ))}
      <Fields least={150} above="s">
        <Pick
          label={say('Who is away')}
          name="away-person"
          value={a.person}
          onChange={(person) => set({ person })}
          empty={say('everybody: closed')}
          options={people.map((p) => ({ id: p.id, name: p.name }))}
        />
        {date('from', say('From'))}
        {date('to', say('To'))}
        <TextField
          label={say('Why')}
          value={a.why}
          onChange={(e) => set({ why: e.target.value })}
          slotProps={{ htmlInput: { name: 'away-why', maxLength: 120 } }}
        />
        <Button
          variant="outlined"
          disabled={busy || !a.from}
          onClick={() => onSave({ ...outlook, away: [...outlook.away, { ...a, to: a.to || a.from }] })}
        >
          {say('Note it')}
        </Button>
      </Fields>
    </>
  );
}

/** The weather of the days of a week, typed; or one that is made up. */
function WeatherOfWeek({ outlook, days, busy, onSave }: ListProps & { days: string[] }) {
  const known = (d: string) => outlook.weather.find((w) => w.day === d);
  const text = (d: string) => {
    const w = known(d);
    const as = (v?: number | null) => (v == null ? '' : String(v));
    return { rainMM: as(w?.rainMM), windKmH: as(w?.windKmH), lowC: as(w?.lowC), highC: as(w?.highC) };
  };
  const [typed, setTyped] = useState(() => Object.fromEntries(days.map((d) => [d, text(d)])));
  const madeUp = days.some((d) => known(d)?.by === '');
  const parsed = days.flatMap((d) => {
    const t = typed[d] ?? text(d);
    return Object.values(t).every((v) => !v.trim())
      ? []
      : [
          {
            day: d,
            rainMM: parseFigure(t.rainMM) ?? null,
            windKmH: parseFigure(t.windKmH) ?? null,
            lowC: parseFigure(t.lowC) ?? null,
            highC: parseFigure(t.highC) ?? null,
            by: '',
          },
        ];
  });
  const wrong = days.some((d) => Object.values(typed[d] ?? {}).some((v) => parseFigure(v) === undefined));
  const field = (d: string, key: 'rainMM' | 'windKmH' | 'lowC' | 'highC', label: string) => (
    <TextField
      size="small"
      label={label}
      value={typed[d]?.[key] ?? ''}
      error={parseFigure(typed[d]?.[key] ?? '') === undefined}
      onChange={(e) => setTyped({ ...typed, [d]: { ...(typed[d] ?? text(d)), [key]: e.target.value } })}
      slotProps={{ htmlInput: { name: `${key}-${d}`, inputMode: 'decimal' } }}
    />
  );
  return (
    <>
      <P strong above="m">
        {say('Weather of this week, from tomorrow on')}
      </P>
      {madeUp && <Caution>{say('A stand-in made this weather up: no forecast service is connected.')}</Caution>}
      {days.map((d) => (
        <Fields key={d} least={110} above="s" data-weather={d}>
          <b>{dayName(d)}</b>
          {field(d, 'rainMM', say('Rain, mm'))}
          {field(d, 'windKmH', say('Wind, km/h'))}
          {field(d, 'lowC', say('Lowest, °C'))}
          {field(d, 'highC', say('Highest, °C'))}
        </Fields>
      ))}
      <Row gap="s" above="s">
        <Button
          variant="contained"
          disabled={busy || wrong}
          onClick={() => onSave({ ...outlook, weather: [...outlook.weather.filter((w) => !days.includes(w.day)), ...parsed] })}
        >
          {say('Keep the weather')}
        </Button>
        <Button disabled={busy} onClick={() => onSave(null)}>
          {say('Simulated forecast')}
        </Button>
      </Row>
    </>
  );
}
