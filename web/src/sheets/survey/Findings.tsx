import { styled } from '@mui/material/styles';
import { moment, say } from '../../words/words';
import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCase, useCompany, useTerms } from '../../api/job';
import { useRecord } from '../../api/records';
import { Block, Fields, Grow, Heading, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { Pick } from '../../parts/Pick';

const Said = styled(Quiet)({ flex: '1 1 240px' });
const Entry = styled('form')({ border: '1px solid var(--copper)', padding: 12, marginTop: 8 });

interface Draft {
  subject: string;
  path: string;
  note: string;
  place: string;
  room: string;
  circuit: string;
  evidence: string;
  risk: string;
  mend: string;
  work: string;
  answers: string; // the check or test that fails and that it is about
  supersedes: string;
}

const blank: Draft = {
  subject: '',
  path: '',
  note: '',
  place: '',
  room: '',
  circuit: '',
  evidence: '',
  risk: '',
  mend: '',
  work: '',
  answers: '',
  supersedes: '',
};

/** Findings: append-only, corrected by a newer one, each with its class, its evidence and photos. */
export function Findings({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
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
  // What is done about a danger, or at the operator's equipment, is followed up where the client's case is.
  const followed = new Set(sheet?.case.sections.flatMap((s) => s.findings.filter((f) => f.operator || f.danger).map((f) => f.id)));
  const grave = (r: Of<'Record'>) => followed.has(r.id);
  const title = (subject: string) => terms?.findings.find((f) => f.id === subject)?.title;
  return (
    <Section>
      <Heading aside={say('{{current}} open', { current: current.filter((r) => !r.done).length })}>{say('Findings')}</Heading>
      {current.map((r) => (
        <Block key={r.id} data-finding={r.subject} ruled pad="s">
          <Row>
            <Mark verdict={r.done ? 'pass' : terms?.classes.find((c) => c.id === r.path)?.urgency === 'now' ? 'fail' : 'caution'} />
            <Grow from={260}>
              <b>{r.path}</b> {title(r.subject) ?? r.note}
              {title(r.subject) && ` · ${r.note}`}{' '}
              <Quiet>
                · {[j.rooms.find((x) => x.id === r.room)?.name, r.place].filter(Boolean).join(', ')} · {r.evidence} · {r.by}, {moment(r.at)}
                {r.done && say(' · rectified or withdrawn')}
              </Quiet>
            </Grow>
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
                      circuit: r.circuit,
                      evidence: r.evidence ?? '',
                      risk: r.risk ?? '',
                      mend: r.mend ?? '',
                      work: r.work ?? '',
                      answers: r.answers ?? '',
                      supersedes: r.id,
                    })
                  }
                >
                  {say('Correct')}
                </Button>
                {!grave(r) && (
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
                        circuit: r.circuit,
                        evidence: r.evidence,
                        supersedes: r.id,
                        done: true,
                      })
                    }
                  >
                    {say('Rectified')}
                  </Button>
                )}
              </>
            )}
          </Row>
        </Block>
      ))}
      {!draft && (
        <Row above="s">
          <Button variant="contained" disabled={job.view.frozen} onClick={() => start({})}>
            {say('Note a finding')}
          </Button>
        </Row>
      )}
      {!draft &&
        job.view.unanswered.map((u) => (
          <Row key={u.key} data-unanswered={u.key} pad="xs">
            <Mark verdict="fail" />
            <Said>
              {u.circuit && `${u.circuit}: `}
              {u.title}. {u.says}
            </Said>
            <Button
              disabled={job.view.frozen}
              onClick={() => start({ answers: u.key, evidence: u.sheet === 'test' ? 'measured' : 'seen', place: u.circuit })}
            >
              {say('Note a finding of it')}
            </Button>
          </Row>
        ))}
      {!draft &&
        sheet?.case.suggest.map((s, i) => (
          <Row key={i} data-suggest={s.kind} pad="xs">
            <Said>
              {s.title}? {s.why}
              {s.place && `: ${s.place}`}.
            </Said>
            <Button disabled={job.view.frozen} onClick={() => start({ subject: s.kind, place: s.place, room: s.room, circuit: s.circuit })}>
              {say('Add')}
            </Button>
          </Row>
        ))}
      {draft && (
        <Entry
          aria-label={say('Finding')}
          onSubmit={(e) => {
            e.preventDefault();
            keepIt();
          }}
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
            {j.circuits.length > 0 && (
              <Pick
                label={say('Circuit')}
                name="circuit"
                value={draft.circuit}
                onChange={(circuit) => set({ circuit })}
                options={j.circuits.map((c) => ({ id: c.id, name: c.name }))}
                empty={say('none, or all')}
              />
            )}
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
          <Row above="m">
            <Button type="submit" variant="contained">
              {draft.supersedes ? say('Save the correction') : say('Save the finding')}
            </Button>
            <Button onClick={() => setDraft(undefined)}>{say('Cancel')}</Button>
            <Quiet>{say('Findings are records: a later one corrects, none is changed.')}</Quiet>
          </Row>
          {record.error && <Wrong>{record.error.message}</Wrong>}
        </Entry>
      )}
    </Section>
  );
}
