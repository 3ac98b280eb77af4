import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { Trouble, type Of } from '../../api/client';
import { askForecast, useSupply } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { NumberBox, TextBox, YesNoBox } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Caution, Fields, Heading, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { SaveLine } from '../../parts/SaveLine';
import { DateBox } from '../survey/RoomCard';

/** The day on which the supply goes off: earliest day and why, what must be ready, hour by hour, and how it goes. For the office before, at the board on the day. */
export function OutageLeaf({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const part = usePart(job, 'outage', j.outage);
  const plan = useSupply(job.id).data?.outage;
  if (!plan) return <p>Planning …</p>;
  return (
    <>
      {plan.running && <RunningClock plan={plan} />}
      <Section>
        <Heading aside={<SaveLine part={part} />}>The day</Heading>
        <p data-earliest-day={plan.earliest} style={{ margin: '0 0 8px' }}>
          Earliest day <b>{plan.earliest}</b>. {plan.why}
        </p>
        <Fields>
          <DateBox part={part} path="day" label="Day of the outage" />
          <TextField
            type="time"
            label="Starts at"
            value={part.value.start}
            disabled={part.frozen}
            sx={{ maxWidth: 160 }}
            onChange={(e) => part.set('start', e.target.value)}
            onBlur={part.commit}
            slotProps={{ htmlInput: { 'data-path': 'start' } }}
          />
          <NumberBox part={part} path="crew" label="People on the day" />
          <NumberBox part={part} path="latitude" label="Latitude, north positive" unit="°" optional />
          <NumberBox part={part} path="longitude" label="Longitude, east positive" unit="°" optional />
        </Fields>
        {plan.causes.length > 0 && (
          <details style={{ marginTop: 8 }} open={plan.causes.length < 5}>
            <summary style={{ cursor: 'pointer', minHeight: 32 }}>What the day waits for · {plan.causes.length}</summary>
            {plan.causes.map((c, i) => (
              <Row key={i} data-cause={c.what} style={{ padding: '3px 0' }}>
                <Mark verdict={c.date ? (c.holds ? 'caution' : 'pass') : 'unknown'} size={13} />
                <span style={{ minWidth: 100 }}>{c.date || 'not yet known'}</span>
                <span style={{ flex: 1 }}>
                  {c.says} {c.holds && <b>· holds the day</b>}
                </span>
              </Row>
            ))}
            <Quiet>
              Delivery days are noted on the <Link to={`/jobs/${job.id}/materials`}>Materials</Link> sheet.
            </Quiet>
          </details>
        )}
      </Section>
      <Section>
        <Heading aside={plan.ready ? 'ready for the cut' : `${plan.checks.filter((c) => c.state !== 'pass').length} open`}>
          Before the cut
        </Heading>
        {plan.checks.map((c) => (
          <Row key={c.what} data-before={c.what} data-state={c.state} style={{ borderBottom: '1px solid var(--rule)', padding: '4px 0' }}>
            <Mark verdict={c.state} />
            <b style={{ flex: '0 1 300px' }}>{c.what}</b>
            <span style={{ flex: '1 1 200px' }}>{c.says}</span>
            {c.sheet !== 'supply' && <Link to={`/jobs/${job.id}/${c.sheet}`}>{c.sheet.replace('-', ' ')}</Link>}
          </Row>
        ))}
        <Fields style={{ marginTop: 12 }}>
          <YesNoBox part={part} path="inspector.needed" label="An inspector must come" />
          <TextBox part={part} path="inspector.who" label="Inspector" />
          <DateBox part={part} path="inspector.on" label="Comes on" />
          <YesNoBox part={part} path="lightReady" label="Light at the board is there" />
          <YesNoBox part={part} path="noTemporary" label="Asked: nothing needs a temporary supply" sure />
        </Fields>
        <div style={{ height: 10 }} />
        <EditTable<Of<'Temporary'>>
          part={part as Part}
          path="temporary"
          label="What cannot be without supply"
          add="Add what cannot wait"
          fresh={() => ({ what: 'freezer', how: '', ready: false })}
          columns={[
            { key: 'what', label: 'What cannot wait' },
            { key: 'how', label: 'How it is fed meanwhile' },
            { key: 'ready', label: 'Ready', kind: 'check', width: 60 },
          ]}
        />
      </Section>
      <Weather part={part} job={job} plan={plan} />
      <Section>
        <Heading aside={plan.steps.length > 0 && `off ${plan.offAt}, on ${plan.onAt}: ${figure(plan.darkH, 'h')} without supply`}>
          Hour by hour
        </Heading>
        {plan.steps.length === 0 ? (
          <p>No task of this job is done under isolation yet: circuits, or new enclosures on the chain, make them.</p>
        ) : (
          <>
            {plan.turn && <p style={{ margin: '0 0 8px' }}>{plan.turn}</p>}
            <Hours plan={plan} />
          </>
        )}
      </Section>
    </>
  );
}

/** On the day: how fact stands to plan, and what to drop first. */
function RunningClock({ plan }: { plan: Of<'OutagePlan'> }) {
  const r = plan.running;
  if (!r) return null;
  return (
    <Section data-running style={{ border: '1px solid var(--ink)', padding: '10px 12px' }}>
      <Row style={{ alignItems: 'baseline' }}>
        <b style={{ fontSize: '1.5em' }}>{r.now}</b>
        <span>
          {r.says} {r.next && `Next: ${r.next}.`} Supply back at about <b>{r.backOn}</b>.
        </span>
      </Row>
      {r.beyond && <Caution>Beyond the point of turning back: going on is quicker than going back.</Caution>}
      {r.drop.length > 0 && (
        <p style={{ margin: '6px 0' }}>
          Drop first: {r.drop.join('; ')}. <Quiet>The house has been without it so far; it can be done another day.</Quiet>
        </p>
      )}
    </Section>
  );
}

function Weather({ part, job, plan }: { part: Part<Of<'Outage'>>; job: Of<'JobView'>; plan: Of<'OutagePlan'> }) {
  const [wrong, setWrong] = useState('');
  const ask = () =>
    askForecast(job.id).then(
      (w) => {
        setWrong('');
        part.save('weather', w);
      },
      (e) => setWrong(e instanceof Trouble ? (e.problem.fields?.[0]?.accept ?? e.message) : String(e)),
    );
  return (
    <Section>
      <Heading>Weather and daylight</Heading>
      <Fields>
        <NumberBox part={part} path="weather.rainMM" label="Rain" unit="mm" optional />
        <NumberBox part={part} path="weather.windMS" label="Wind" unit="m/s" optional />
        <NumberBox part={part} path="weather.tempC" label="Temperature" unit="°C" optional />
        <TextBox part={part} path="weather.source" label="Who says so" />
      </Fields>
      <Row style={{ marginTop: 6 }}>
        <Button disabled={part.frozen} onClick={() => void ask()}>
          Ask the simulated forecast
        </Button>
        <span>{plan.sun || <Quiet>○ Daylight: not yet known without a day and a place.</Quiet>}</span>
      </Row>
      {wrong && <Wrong>{wrong}</Wrong>}
      {plan.weather.map((w) => (
        <Caution key={w}>{w}</Caution>
      ))}
    </Section>
  );
}

const lane = 22;

/** The steps of the day over the hours, drawn and as a table: what is done in the dark, and the point of no return. */
function Hours({ plan }: { plan: Of<'OutagePlan'> }) {
  const end = Math.max(...plan.steps.map((s) => s.to), 1);
  const width = 560;
  const x = (h: number) => (h / end) * width;
  const turn = plan.steps.find((s) => s.id === plan.noReturn);
  return (
    <Scroll>
      <SheetTable aria-label="Steps of the day">
        <thead>
          <tr>
            <th style={{ width: 20 }} aria-label="Done" />
            <th scope="col" style={{ width: 120 }}>
              Clock
            </th>
            <th scope="col">Step</th>
            <th scope="col" className="num" style={{ width: 60 }}>
              People
            </th>
            <th scope="col" className="hours" style={{ width: 300 }}>
              Hours
            </th>
            <th scope="col" className="num" style={{ width: 120 }}>
              Back / on
            </th>
          </tr>
        </thead>
        <tbody>
          {plan.steps.map((s) => (
            <tr key={s.id} data-step={s.id}>
              <td>
                <Mark verdict={s.done ? 'pass' : 'unknown'} label={s.done ? 'done' : 'to do'} size={14} />
              </td>
              <td style={{ whiteSpace: 'nowrap' }}>{s.clock}</td>
              <td>
                {s.title} {s.drop && <Quiet>· may wait</Quiet>}
                {s.lateH !== null && s.lateH !== 0 && (
                  <Quiet>
                    {' '}
                    · {figure(Math.abs(s.lateH), 'h')} {s.lateH > 0 ? 'late' : 'early'}
                  </Quiet>
                )}
                {s.caution && (
                  <>
                    <br />
                    <Quiet>{s.caution}</Quiet>
                  </>
                )}
              </td>
              <td className="num">{s.crew}</td>
              <td>
                <svg
                  width="100%"
                  height={lane}
                  viewBox={`0 0 ${width} ${lane}`}
                  preserveAspectRatio="none"
                  aria-hidden
                  style={{ display: 'block', minWidth: 140 }}
                >
                  <line x1={0} y1={lane / 2} x2={width} y2={lane / 2} stroke="var(--rule)" />
                  <rect
                    x={x(s.from)}
                    y={4}
                    width={Math.max(3, x(s.to) - x(s.from))}
                    height={lane - 8}
                    fill={s.dark ? 'var(--ink)' : 'var(--verdigris)'}
                    opacity={s.done ? 0.45 : 1}
                  />
                  {turn && <line x1={x(turn.to)} y1={0} x2={x(turn.to)} y2={lane} stroke="var(--copper)" strokeWidth={3} />}
                </svg>
              </td>
              <td className="num">{s.dark ? `${figure(s.backH, 'h')} / ${figure(s.onH, 'h')}` : ''}</td>
            </tr>
          ))}
        </tbody>
      </SheetTable>
      <Quiet>
        Dark bars: the house is without supply. The copper line: the point of no return. Ticks are made on the Second fix sheet.
      </Quiet>
    </Scroll>
  );
}
