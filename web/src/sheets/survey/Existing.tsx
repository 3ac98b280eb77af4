import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCase, useCompany, useTerms } from '../../api/job';
import { useRecord } from '../../api/records';
import { usePart } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { NumberBox, TextBox, YesNoBox, ChoiceBox } from '../../parts/fields';
import { figure, parseFigure } from '../../parts/figure';
import { Caution, Fields, Heading, Quiet, Row, Scroll, Section, SheetTable, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { useUnits } from '../../parts/units';
import { SaveLine } from '../../parts/SaveLine';

const word = (ids: string[]) => ids.map((id) => ({ id, name: id }));

/** The existing installation as it is found: board, circuits, hazards, readings and findings. Looked at, hardly touched. */
export function Existing({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const units = useUnits();
  const part = usePart(job, 'found', j.found);
  const terms = useTerms().data;
  const hint = useCase(job.id).data?.case.hint;
  return (
    <>
      <Findings job={job} j={j} />
      <Readings job={job} j={j} />
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('Board as found')}</Heading>
        <Caution>
          {say('Covers stay on until the board is isolated and proved dead; what needs a look inside is noted as not seen.')}
        </Caution>
        <Fields>
          <NumberBox part={part} path="board.built" label={say('House built in')} help={say('year, or about')} optional />
          <NumberBox
            part={part}
            path="board.rewired"
            label={say('Last rewired in')}
            help={say('year, or about; empty when not known')}
            optional
          />
          <TextBox part={part} path="board.made" label={say('Board: approximate year')} />
          <TextBox part={part} path="board.edition" label={say('Edition installed to')} />
          <YesNoBox part={part} path="board.combustible" label={say('Combustible enclosure')} />
          <YesNoBox part={part} path="board.escapeRoute" label={say('On the escape route')} />
          <ChoiceBox
            part={part}
            path="board.near"
            label={say('Above or around it')}
            empty={say('not looked at')}
            options={[
              { id: 'nothing', name: say('nothing: free to reach') },
              { id: 'water', name: say('water pipe, tank or wet room') },
              { id: 'gas', name: say('gas meter or gas pipe') },
              { id: 'goods', name: say('things kept against it') },
            ]}
          />
          <TextBox part={part} path="board.above" label={say('In words: above and around it')} />
          <ChoiceBox
            part={part}
            path="board.covers"
            label={say('Residual protection covers')}
            empty={say('not looked at')}
            options={[
              { id: 'none', name: 'none' },
              { id: 'some', name: say('some circuits') },
              { id: 'all', name: say('all circuits that need it') },
              { id: 'fire', name: say('only above 30 mA') },
            ]}
          />
          <TextBox part={part} path="board.residual" label={say('In words: kind and type of each')} />
          <TextBox
            part={part}
            path="board.doubleTapped"
            label={say('More conductors in a terminal than it is made for, ways')}
            help={say('or: none')}
          />
          <NumberBox part={part} path="board.openWays" label={say('Missing blanks')} optional />
          <ChoiceBox
            part={part}
            path="board.arrester"
            label={say('Surge device')}
            empty={say('not looked for')}
            options={word(['none', say('in sight'), 'hidden'])}
          />
          <TextBox part={part} path="board.note" label={say('Note')} />
        </Fields>
        {hint && (
          <p data-era={hint.from}>
            <Quiet>
              {say('Wiring of those years, often: {{summary}}. Prove it: {{prove}}.', { summary: hint.summary, prove: hint.prove })}
            </Quiet>
          </p>
        )}
        <div style={{ marginTop: 8 }}>
          <Photos job={job} subject="board" what={say('the board')} />
        </div>
        <p>
          <Quiet>{say('The ways themselves, with devices and labels, stand on the Board sheet.')}</Quiet>
        </p>
      </Section>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('Circuits found')}</Heading>
        <EditTable
          part={part}
          path="circuits"
          label={say('Circuits found')}
          add={say('Add a circuit')}
          newRow={() => ({
            name: 'circuit',
            device: '',
            state: '' as const,
            proved: '',
            colours: '' as const,
            method: '',
            tailM: { value: null, basis: '' as const, note: '' },
            note: '',
            wiring: '' as const,
          })}
          columns={[
            { key: 'name', label: say('Circuit') },
            { key: 'device', label: say('Device'), width: 90 },
            {
              key: 'state',
              label: say('State'),
              kind: 'choice',
              width: 130,
              options: [{ id: '', name: say('not looked at') }, ...word(['live', 'dead', say('cut at one end'), 'unidentified'])],
            },
            { key: 'proved', label: say('Known by'), width: 150 },
            {
              key: 'colours',
              label: say('Core colours'),
              kind: 'choice',
              width: 100,
              options: [{ id: '', name: say('not seen') }, ...word(['old', 'new', 'mixed'])],
            },
            {
              key: 'wiring',
              label: say('Wiring'),
              kind: 'choice',
              width: 130,
              options: [
                { id: '', name: say('not seen') },
                { id: 'sheathed', name: say('sheathed cable') },
                { id: 'conduit', name: say('in conduit') },
                { id: 'armoured', name: 'armoured' },
                { id: 'aluminium', name: 'aluminium' },
                { id: 'rubber', name: 'rubber' },
                { id: 'fabric', name: 'fabric' },
                { id: 'lead', name: say('lead sheath') },
                { id: 'open', name: say('open on insulators') },
              ],
            },
            { key: 'method', label: say('How it runs'), width: 110 },
            { key: 'tailM.value', label: say('Tail to spare'), scale: units.m, kind: 'number', optional: true, width: 90 },
            { key: 'note', label: say('Note') },
          ]}
        />
        <Colours colours={terms?.survey.colours ?? []} />
      </Section>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('Hazards on the way')}</Heading>
        <EditTable
          part={part}
          path="hazards"
          label={say('Hazards')}
          add={say('Add a hazard')}
          newRow={() => ({ kind: say('suspected asbestos'), place: 'where', room: '', floor: '', clear: false, how: '', note: '' })}
          columns={[
            {
              key: 'kind',
              label: say('Hazard'),
              kind: 'choice',
              width: 180,
              options: word((terms?.survey.hazards ?? []).map((h) => h.id)),
            },
            { key: 'place', label: say('Where') },
            {
              key: 'room',
              label: say('Room'),
              kind: 'choice',
              width: 130,
              options: [{ id: '', name: '–' }, ...j.rooms.map((r) => ({ id: r.id, name: r.name }))],
            },
            {
              key: 'floor',
              label: say('Floor'),
              kind: 'choice',
              width: 110,
              options: [
                { id: '', name: '–' },
                ...[...new Set(j.rooms.map((r) => r.floor).filter(Boolean))].map((f) => ({ id: f, name: f })),
              ],
            },
            { key: 'how', label: say('How it was cleared'), width: 180 },
            { key: 'clear', label: say('Clear'), kind: 'check', width: 50 },
            { key: 'note', label: say('Note') },
          ]}
        />
        {j.found.hazards.some((h) => !h.clear && !h.room && !h.floor) && j.rooms.length > 0 && (
          <Quiet style={{ display: 'block', margin: '6px 0' }}>
            {say('A hazard without a room and a floor may be anywhere: it holds first fix in every room.')}
          </Quiet>
        )}
        {[...new Set(j.found.hazards.filter((h) => !h.clear).map((h) => h.kind))].map((k) => (
          <Caution key={k}>
            <b>{k}:</b> {terms?.survey.hazards.find((h) => h.id === k)?.asks}
          </Caution>
        ))}
      </Section>
    </>
  );
}

function Colours({ colours }: { colours: Of<'Colour'>[] }) {
  return (
    <details style={{ marginTop: 8 }}>
      <summary style={{ cursor: 'pointer', minHeight: 32 }}>{say('Core colours, old and new')}</summary>
      <Scroll>
        <SheetTable aria-label={say('Core colours')}>
          <tbody>
            {colours.map((c, i) => (
              <tr key={i}>
                <td style={{ width: 70 }}>{c.era}</td>
                <td style={{ width: 130 }}>{c.function}</td>
                <td>{c.colour}</td>
                <td>{c.warn && <Quiet>◐ {c.warn}</Quiet>}</td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
    </details>
  );
}

interface Draft {
  subject: string;
  path: string;
  note: string;
  place: string;
  room: string;
  evidence: string;
  risk: string;
  mend: string;
  work: string;
  supersedes: string;
}

const blank: Draft = { subject: '', path: '', note: '', place: '', room: '', evidence: '', risk: '', mend: '', work: '', supersedes: '' };

/** Findings: append-only, corrected by a newer one, each with its class, its evidence and photos. */
function Findings({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const terms = useTerms().data?.survey;
  const record = useRecord(job.id);
  const sheet = useCase(job.id).data;
  const company = useCompany().data;
  const [draft, setDraft] = useState<Draft>();
  const gone = new Set(j.records.map((r) => r.supersedes).filter(Boolean));
  const current = j.records.filter((r) => r.kind === 'observation' && !gone.has(r.id));
  const kind = terms?.findings.find((f) => f.id === draft?.subject);
  const set = (next: Partial<Draft>) => draft && setDraft({ ...draft, ...next });
  const start = (d: Partial<Draft>) => {
    const f = terms?.findings.find((x) => x.id === d.subject);
    const usual = terms?.classes.find((c) => c.urgency === f?.urgency)?.id ?? '';
    setDraft({ ...blank, path: usual, ...d });
  };
  const keepIt = () =>
    draft &&
    record.mutate(
      { kind: 'observation', ...draft },
      {
        onSuccess: () => setDraft(undefined),
      },
    );
  const title = (subject: string) => terms?.findings.find((f) => f.id === subject)?.title;
  return (
    <Section>
      <Heading aside={say('{{current}} open', { current: current.filter((r) => !r.done).length })}>{say('Findings')}</Heading>
      {current.map((r) => (
        <div key={r.id} data-finding={r.subject} style={{ borderBottom: '1px solid var(--rule)', padding: '6px 0' }}>
          <Row>
            <Mark verdict={r.done ? 'pass' : terms?.classes.find((c) => c.id === r.path)?.urgency === 'now' ? 'fail' : 'caution'} />
            <span style={{ flex: '1 1 260px' }}>
              <b>{r.path}</b> {title(r.subject) ?? r.note}
              {title(r.subject) && ` · ${r.note}`}{' '}
              <Quiet>
                · {[j.rooms.find((x) => x.id === r.room)?.name, r.place].filter(Boolean).join(', ')} · {r.evidence} · {r.by}, {moment(r.at)}
                {r.done && say(' · rectified or withdrawn')}
              </Quiet>
            </span>
            <Photos job={job} subject={r.id} what={title(r.subject) ?? 'finding'} small />
            {!r.done && (
              <>
                <Button
                  disabled={job.view.frozen}
                  onClick={() =>
                    setDraft({
                      subject: r.subject,
                      path: r.path,
                      note: r.note,
                      place: r.place ?? '',
                      room: r.room ?? '',
                      evidence: r.evidence ?? '',
                      risk: r.risk ?? '',
                      mend: r.mend ?? '',
                      work: r.work ?? '',
                      supersedes: r.id,
                    })
                  }
                >
                  {say('Correct')}
                </Button>
                <Button
                  disabled={job.view.frozen}
                  onClick={() =>
                    record.mutate({
                      kind: 'observation',
                      subject: r.subject,
                      path: r.path,
                      note: r.note,
                      place: r.place,
                      room: r.room,
                      evidence: r.evidence,
                      supersedes: r.id,
                      done: true,
                    })
                  }
                >
                  {say('Rectified')}
                </Button>
              </>
            )}
          </Row>
        </div>
      ))}
      {!draft && (
        <Row style={{ marginTop: 8 }}>
          <Button variant="contained" disabled={job.view.frozen} onClick={() => start({})}>
            {say('Note a finding')}
          </Button>
        </Row>
      )}
      {!draft &&
        sheet?.case.suggest.map((s, i) => (
          <Row key={i} data-suggest={s.kind} style={{ padding: '4px 0' }}>
            <Quiet style={{ flex: '1 1 240px' }}>
              {s.title}? {s.why}
              {s.place && `: ${s.place}`}.
            </Quiet>
            <Button disabled={job.view.frozen} onClick={() => start({ subject: s.kind, place: s.place, room: s.room })}>
              {say('Add')}
            </Button>
          </Row>
        ))}
      {draft && (
        <form
          aria-label={say('Finding')}
          onSubmit={(e) => {
            e.preventDefault();
            keepIt();
          }}
          style={{ border: '1px solid var(--copper)', padding: 12, marginTop: 8 }}
        >
          <Fields>
            <Pick
              label={say('What')}
              name="subject"
              value={draft.subject}
              onChange={(subject) =>
                set({
                  subject,
                  path:
                    draft.path || terms?.classes.find((c) => c.urgency === terms.findings.find((f) => f.id === subject)?.urgency)?.id || '',
                })
              }
              options={[...(terms?.findings ?? []).map((f) => ({ id: f.id, name: f.title })), { id: 'other', name: say('Something else') }]}
            />
            <Pick
              label={say('Class')}
              name="path"
              value={draft.path}
              onChange={(path) => set({ path })}
              options={(terms?.classes ?? []).map((c) => ({ id: c.id, name: c.name }))}
              help={terms?.classes.find((c) => c.id === draft.path)?.summary}
            />
            <Pick
              label={say('How it is known')}
              name="evidence"
              value={draft.evidence}
              onChange={(evidence) => set({ evidence })}
              options={[
                { id: 'measured', name: say('measured or tested') },
                { id: 'seen', name: 'seen' },
                { id: 'told', name: say('told by somebody') },
                { id: 'suspected', name: 'suspected' },
              ]}
              help={kind && draft.evidence && say('its risk is said in full when it is {{needs}}', { needs: kind.needs })}
            />
            <Pick
              label={say('Room')}
              name="room"
              value={draft.room}
              onChange={(room) => set({ room })}
              options={j.rooms.map((r) => ({ id: r.id, name: r.name }))}
              empty={say('no room')}
            />
            <TextField label={say('Place')} value={draft.place} onChange={(e) => set({ place: e.target.value })} />
            <TextField
              label={say('What was seen, in your words')}
              value={draft.note}
              required
              onChange={(e) => set({ note: e.target.value })}
              slotProps={{ htmlInput: { name: 'note' } }}
            />
            <TextField
              label={say('Risk, in plain words')}
              value={draft.risk}
              placeholder={kind?.risk}
              onChange={(e) => set({ risk: e.target.value })}
              helperText={kind && say('left empty: the words of the catalogue, as far as the evidence bears them')}
            />
            <TextField
              label={say('Remedial action')}
              value={draft.mend}
              placeholder={kind?.mend}
              onChange={(e) => set({ mend: e.target.value })}
            />
            <Pick
              label={say('Price from the list')}
              name="work"
              value={draft.work}
              onChange={(work) => set({ work })}
              empty={kind ? say('the usual for it') : 'none'}
              options={(company?.prices ?? []).filter((p) => p.key.startsWith('work:')).map((p) => ({ id: p.key, name: p.name }))}
            />
          </Fields>
          <Row style={{ marginTop: 10 }}>
            <Button type="submit" variant="contained">
              {draft.supersedes ? say('Save the correction') : say('Save the finding')}
            </Button>
            <Button onClick={() => setDraft(undefined)}>{say('Cancel')}</Button>
            <Quiet>{say('Findings are records: a later one corrects, none is changed.')}</Quiet>
          </Row>
          {record.error && <Wrong>{record.error.message}</Wrong>}
        </form>
      )}
    </Section>
  );
}

export function Pick({
  label,
  name,
  value,
  onChange,
  options,
  empty = 'choose',
  help,
}: {
  label: string;
  name: string;
  value: string;
  onChange: (v: string) => void;
  options: { id: string; name: string }[];
  empty?: string;
  help?: string;
}) {
  return (
    <TextField
      select
      label={label}
      value={value}
      helperText={help}
      onChange={(e) => onChange(e.target.value)}
      slotProps={{ select: { native: true }, htmlInput: { name } }}
    >
      <option value="">{empty}</option>
      {options.map((o) => (
        <option key={o.id} value={o.id}>
          {o.name}
        </option>
      ))}
    </TextField>
  );
}

/** Leakage and voltage read on the survey: typed by a person, never filled in. */
function Readings({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const terms = useTerms().data?.survey;
  const company = useCompany().data;
  const record = useRecord(job.id);
  const [subject, setSubject] = useState('');
  const [value, setValue] = useState('');
  const [place, setPlace] = useState('');
  const [instrument, setInstrument] = useState('');
  const kind = terms?.readings.find((r) => r.id === subject);
  const readings = j.records.filter((r) => r.kind === 'survey-reading');
  const number = parseFigure(value);
  const sheet = useCase(job.id).data;
  const judged = (r: Of<'Record'>) => sheet?.readings.find((x) => x.id === r.id);
  return (
    <Section>
      <Heading>{say('Readings of the survey')}</Heading>
      {readings.length > 0 && (
        <Scroll>
          <SheetTable aria-label={say('Survey readings')}>
            <tbody>
              {readings.map((r) => (
                <tr key={r.id}>
                  <td style={{ width: 20 }}>
                    <Mark verdict={judged(r)?.verdict ?? 'unknown'} />
                  </td>
                  <td>{terms?.readings.find((x) => x.id === r.subject)?.name ?? r.subject}</td>
                  <td>{r.place}</td>
                  <td className="num">
                    <b>{figure(r.value, r.unit)}</b>
                  </td>
                  <td>
                    <Quiet>
                      {r.instrument} · {r.by}, {moment(r.at)} {judged(r)?.summary && `· ${judged(r)?.summary}`}
                    </Quiet>
                  </td>
                </tr>
              ))}
            </tbody>
          </SheetTable>
        </Scroll>
      )}
      <form
        aria-label={say('Survey reading')}
        onSubmit={(e) => {
          e.preventDefault();
          const meter = company?.instruments.find((i) => i.name === instrument);
          record.mutate(
            { kind: 'survey-reading', subject, value: number ?? null, unit: kind?.unit, place, instrument, calibrated: meter?.calibrated },
            { onSuccess: () => setValue('') },
          );
        }}
      >
        <Fields style={{ marginTop: 8 }}>
          <Pick
            label={say('Reading')}
            name="reading"
            value={subject}
            onChange={setSubject}
            options={(terms?.readings ?? []).map((r) => ({ id: r.id, name: r.name }))}
          />
          <TextField
            label={`Figure${kind ? `, ${kind.unit}` : ''}`}
            value={value}
            error={number === undefined}
            helperText={number === undefined ? say('“{{value}}” is not a number', { value }) : undefined}
            onChange={(e) => setValue(e.target.value)}
            slotProps={{ htmlInput: { inputMode: 'decimal', name: 'figure' } }}
          />
          <TextField
            label={say('Where')}
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            slotProps={{ htmlInput: { name: 'where' } }}
          />
          <Pick
            label={say('Instrument')}
            name="instrument"
            value={instrument}
            onChange={setInstrument}
            options={(company?.instruments ?? []).map((i) => ({ id: i.name, name: i.name }))}
          />
        </Fields>
        <Button type="submit" sx={{ mt: 1 }} disabled={job.view.frozen || typeof number !== 'number'}>
          {say('Save the reading')}
        </Button>
        {record.error && <Wrong>{record.error.message}</Wrong>}
      </form>
    </Section>
  );
}
