import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import { Button } from '@mui/material';
import { type Of } from '../../api/client';
import { type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, NumberBox, TextBox, YesNoBox, bases, choices, noFact } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Block, Fields, Grow, Heading, Quiet, Row, Scroll, Section, SheetTable, Td } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { MarkFields } from '../../parts/MarkFields';
import { Photos } from '../../parts/Photos';
import { useUnits } from '../../parts/units';
import { SectionDrawing } from './SectionDrawing';

const Way = styled('b')({ minWidth: 80 });

interface RunProps {
  job: Of<'JobView'>;
  part: Part<Of<'Outdoor'>>;
  at: number;
  run: Of<'OutdoorRun'>;
  worked?: Of<'WorkedRun'>;
  rules?: Of<'OutdoorRules'> | null;
  open: (c: Of<'Check'>) => void;
  opened?: string;
}

/** One trench or overhead run: its section drawn, its stretches, its duct and what was found on the day. */
export function RunSection({ job, part, at, run, worked, rules, open, opened }: RunProps) {
  const units = useUnits();
  const p = `runs[${at}]` as const;
  const places = run.kind === 'overhead' ? rules?.clearances : rules?.covers;
  const surfaces = [{ id: '', name: say('not said') }, ...choices(places?.map((c) => c.place))];
  return (
    <Section data-run={run.kind}>
      <Heading
        aside={
          worked &&
          `${units.show(worked.lengthM, 'm')}${worked.bendDeg ? say(', bends {{bendDeg}}°', { bendDeg: figure(worked.bendDeg) }) : ''}`
        }
      >
        {run.name}
      </Heading>
      {worked && <SectionDrawing run={run} worked={worked} rods={at === 0 ? part.value.electrodes.rods : []} />}
      <EditTable
        part={part}
        path={`${p}.stretches`}
        label={say('Stretches of {{name}}', { name: run.name })}
        add={say('Add a stretch')}
        least={1}
        newRow={(rows) => ({
          ...(rows.at(-1) as Of<'RunStretch'>),
          place: say('next stretch'),
          lengthM: 1,
          basis: 'assumed' as const,
          dugMM: noFact,
          bendDeg: 0,
        })}
        columns={[
          { key: 'place', label: say('Stretch') },
          { key: 'lengthM', label: say('Length'), scale: units.m, kind: 'number', width: 72 },
          { key: 'basis', label: say('Known by'), kind: 'choice', width: 110, options: bases('measured', 'drawing', '◐ estimated') },
          { key: 'surface', label: say('Lies under'), kind: 'choice', width: 170, options: surfaces },
          {
            key: 'coverMM',
            label: run.kind === 'trench' ? say('Cover planned') : say('Height'),
            scale: units.mm,
            kind: 'number',
            width: 90,
          },
          {
            key: 'dugMM.value',
            label: run.kind === 'trench' ? say('as dug') : 'measured',
            scale: units.mm,
            kind: 'number',
            optional: true,
            width: 84,
          },
          {
            key: 'ribbonMM',
            label: say('Warning tape above'),
            scale: units.mm,
            kind: 'number',
            width: 84,
            zero: true,
            hide: () => run.kind !== 'trench',
          },
          { key: 'bendDeg', label: say('Bend at end'), unit: '°', kind: 'number', width: 76, zero: true },
          { key: 'radiusMM', label: say('Radius'), scale: units.mm, kind: 'number', width: 72, zero: true },
        ]}
      />
      <Fields above="m">
        <TextBox part={part} path={`${p}.name`} label={say('Name')} />
        <NumberBox part={part} path={`${p}.ductMM`} label={say('Duct bore')} scale={units.mm} help={say('0 without a duct')} />
        <NumberBox
          part={part}
          path={`${p}.coverMM`}
          label={say('Cover the operator asks for')}
          scale={units.mm}
          help={say('0 when it asks for none')}
        />
        <NumberBox
          part={part}
          path={`${p}.radiusMM`}
          label={say('Bend radius the operator asks for')}
          scale={units.mm}
          help={say('0 when it asks for none')}
        />
        {rules && rules.risers.length > 0 && (
          <ChoiceBox
            part={part}
            path={`${p}.riser`}
            label={say('Grade where it leaves the ground')}
            empty={say('not read')}
            options={choices(rules.risers.map((r) => r.grade))}
          />
        )}
        <TextBox part={part} path={`${p}.grade`} label={say('Printed on the duct there')} />
        <MarkFields part={part} path={p} />
        {run.ductMM > 0 && <YesNoBox part={part} path={`${p}.string`} label={say('Draw string tied at both ends')} />}
        {run.ductMM > 0 && <YesNoBox part={part} path={`${p}.capped`} label={say('Both ends capped')} />}
        <TextBox part={part} path={`${p}.note`} label={say('Note')} />
      </Fields>
      {worked && (
        <>
          <Heading>{say('Checks')}</Heading>
          <CheckList checks={worked.checks} onOpen={open} opened={opened} />
          <Obstructions part={part} at={at} worked={worked} />
          <Heading>{say('Parts')}</Heading>
          <Scroll>
            <SheetTable aria-label={say('Parts of {{name}}', { name: run.name })}>
              <tbody>
                {worked.parts.map((x) => (
                  <tr key={x.name}>
                    <td>{x.name}</td>
                    <Td className="num" nowrap>
                      <b>{figure(x.n, x.unit)}</b>
                    </Td>
                    <td>
                      <Quiet>{x.rule}</Quiet>
                    </td>
                  </tr>
                ))}
              </tbody>
            </SheetTable>
          </Scroll>
          <Heading>{say('Steps, and who comes after whom')}</Heading>
          <Scroll>
            <SheetTable aria-label={say('Steps of {{name}}', { name: run.name })}>
              <tbody>
                {worked.steps.map((s) => (
                  <tr key={s.id} data-step={s.id}>
                    <Td width={20}>
                      <Mark
                        verdict={s.done ? 'pass' : s.waits ? 'unknown' : 'caution'}
                        label={s.done ? 'done' : s.waits ? 'waits' : say('may begin')}
                        size={14}
                      />
                    </Td>
                    <Td width={150}>
                      <b>{s.who}</b>
                    </Td>
                    <td>
                      {s.title}
                      <br />
                      <Quiet>
                        {say('must find: {{finds}}', { finds: s.finds })}
                        {!s.done && s.waits && say(' · comes after: {{waits}}', { waits: s.waits })}
                      </Quiet>
                    </td>
                    <td className="num">{figure(s.hours, 'h')}</td>
                  </tr>
                ))}
              </tbody>
            </SheetTable>
          </Scroll>
          <Quiet>{say('Steps are ticked on the First fix and Second fix sheets.')}</Quiet>
        </>
      )}
      <Block above="s">
        <Photos job={job} subject={`run-${run.id}`} what={run.name} />
      </Block>
      <Row above="s">
        <Button
          disabled={part.frozen}
          onClick={() =>
            part.save(
              'runs',
              part.value.runs.filter((o) => o.id !== run.id),
            )
          }
        >
          {say('Remove {{name}}', { name: run.name })}
        </Button>
        <Quiet>{say('Ctrl Z brings it back.')}</Quiet>
      </Row>
    </Section>
  );
}

/** What was struck on the day, and the ways past it with their effect. */
function Obstructions({ part, at, worked }: { part: Part<Of<'Outdoor'>>; at: number; worked: Of<'WorkedRun'> }) {
  const units = useUnits();
  const p = `runs[${at}].found` as const;
  return (
    <>
      <Heading>{say('Found on the day')}</Heading>
      <EditTable
        part={part}
        path={p}
        label={say('Obstructions')}
        add={say('Note what was found')}
        newRow={() => ({ atM: 0, what: say('not said yet'), lengthM: 0, widthM: 0, topMM: 0, bottomMM: 0, option: '' as const, by: '' })}
        columns={[
          { key: 'what', label: say('What') },
          { key: 'atM', label: say('From the start'), scale: units.m, kind: 'number', width: 90, zero: true },
          { key: 'lengthM', label: say('Along'), scale: units.m, kind: 'number', width: 70, zero: true },
          { key: 'widthM', label: say('To the free side'), scale: units.m, kind: 'number', width: 90, zero: true },
          { key: 'topMM', label: say('Top below ground'), scale: units.mm, kind: 'number', width: 100, zero: true },
          { key: 'bottomMM', label: say('Bottom below ground'), scale: units.mm, kind: 'number', width: 100, zero: true },
          {
            key: 'option',
            label: say('Decided'),
            kind: 'choice',
            width: 110,
            options: [{ id: '', name: say('not yet') }, ...choices(worked.passings[0]?.ways.map((w) => w.option))],
          },
          { key: 'by', label: say('By'), width: 110 },
        ]}
      />
      {worked.passings.map((x, i) => (
        <Block key={i} data-passing={x.what} around="s">
          <b>{say('Past {{what}}', { what: x.what })}</b>
          {x.ways.map((w) => (
            <Row key={w.option} pad="xs" align="start">
              <Mark verdict={w.ok ? 'pass' : 'fail'} size={13} label={w.ok ? 'possible' : say('not as it is')} />
              <Way>{w.option}</Way>
              <Grow>
                {w.summary}, {figure(w.hours, 'h')}. {w.why && <b>{say('Not as it is: {{why}}.', { why: w.why })}</b>}
              </Grow>
            </Row>
          ))}
        </Block>
      ))}
    </>
  );
}
