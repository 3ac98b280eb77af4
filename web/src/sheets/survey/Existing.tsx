import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useCase, useTerms } from '../../api/job';
import { usePart } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { NumberBox, TextBox, YesNoBox, ChoiceBox } from '../../parts/fields';
import { Block, Caution, Fields, Heading, Quiet, Section } from '../../parts/layout';
import { Photos } from '../../parts/Photos';
import { Proofs } from './Proofs';
import { TraceCircuits } from './TraceCircuits';
import { SaveLine } from '../../parts/SaveLine';
import { Findings } from './Findings';
import { FoundCircuits } from './FoundCircuits';
import { Readings } from './SurveyReadings';

const Note = styled(Quiet)({ display: 'block', margin: '6px 0' });

const word = (ids: string[]) => ids.map((id) => ({ id, name: id }));

/** The existing installation as it is found: board, circuits, hazards, readings and findings. Looked at, hardly touched. */
export function Existing({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const part = usePart(job, 'found', j.found);
  const terms = useTerms().data;
  const found = useCase(job.id).data?.case;
  const hint = found?.hint;
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
            label={say('In words: terminals with too many conductors')}
            help={say('each circuit says it below')}
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
        <Proofs job={job} proofs={found?.proofs ?? []} />
        <Block above="s">
          <Photos job={job} subject="board" what={say('the board')} />
        </Block>
        <p>
          <Quiet>{say('The ways themselves, with devices and labels, stand on the Board sheet.')}</Quiet>
        </p>
      </Section>
      <TraceCircuits job={job} j={j} />
      <FoundCircuits j={j} part={part} colours={terms?.survey.colours ?? []} />
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
          <Note>{say('A hazard without a room and a floor may be anywhere: it holds first fix in every room.')}</Note>
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
