import { say } from '../../words/words';
import { Button } from '@mui/material';
import { newKey, type Of } from '../../api/client';
import { useOutdoor, useSheetAsks } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { EditTable, type Column } from '../../parts/EditTable';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, bases, choices } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Caution, Fields, Heading, Quiet, Row, Scroll, Section, SheetTable } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { useUnits } from '../../parts/units';
import { SaveLine } from '../../parts/SaveLine';
import type { SheetProps } from '../props';
import { DateBox } from '../survey/RoomCard';
import { SectionDrawing } from './SectionDrawing';

const none = { value: null, basis: '' as const, note: '' };

/** Trenches and overhead runs drawn as a section with parts and steps, and the electrodes. For the yard and the edge of the trench. */
export function OutdoorLeaf({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'outdoor', j.outdoor);
  const { data: sheet, isPending } = useOutdoor(job.id);
  const add = (kind: string) =>
    part.save('runs', [
      ...part.value.runs,
      {
        id: `r-${newKey().slice(0, 6)}`,
        name: kind === 'trench' ? say('Trench') : say('Overhead run'),
        kind,
        ductMM: kind === 'trench' ? 50 : 0,
        grade: '',
        coverMM: 0,
        stretches: [
          {
            place: say('first stretch'),
            lengthM: 5,
            basis: 'assumed',
            surface: '',
            coverMM: kind === 'trench' ? 600 : 4000,
            dugMM: none,
            bendDeg: 0,
            radiusMM: 0,
            ribbonMM: 0,
          },
        ],
        found: [],
        located: '',
        locatedTo: '',
        dugBy: '',
        liable: '',
        string: null,
        capped: null,
        note: '',
      },
    ]);
  if (isPending) return <p>{say('Computing …')}</p>;
  return (
    <>
      <Caution>
        {say(
          'Locate other services before the first spade; dig by hand near them. Whoever digs is liable for damage ' +
            'to services: have it in writing.',
        )}
      </Caution>
      <Row style={{ marginBottom: 10 }}>
        <Button variant="contained" disabled={part.frozen} onClick={() => add('trench')}>
          {say('Add a trench')}
        </Button>
        <Button disabled={part.frozen} onClick={() => add('overhead')}>
          {say('Add an overhead run')}
        </Button>
        <SaveLine part={part} />
      </Row>
      {part.value.runs.map((r, i) => {
        const worked = sheet?.runs.find((w) => w.id === r.id);
        return (
          <RunSection
            key={r.id}
            job={job}
            part={part}
            at={i}
            run={r}
            worked={worked}
            rules={sheet?.rules}
            open={(c) => open(c)}
            opened={opened}
          />
        );
      })}
      <Electrodes job={job} part={part} sheet={sheet} open={(c) => open(c)} opened={opened} />
    </>
  );
}

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

function RunSection({ job, part, at, run, worked, rules, open, opened }: RunProps) {
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
          dugMM: none,
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
      <Fields style={{ marginTop: 12 }}>
        <TextBox part={part} path={`${p}.name`} label={say('Name')} />
        <NumberBox part={part} path={`${p}.ductMM`} label={say('Duct bore')} scale={units.mm} help={say('0 without a duct')} />
        <NumberBox
          part={part}
          path={`${p}.coverMM`}
          label={say('Cover the operator asks for')}
          scale={units.mm}
          help={say('0 when it asks for none')}
        />
        <TextBox part={part} path={`${p}.grade`} label={say('Grade printed on the duct where it leaves the ground')} />
        <TextBox part={part} path={`${p}.located`} label={say('Request to locate services, reference')} />
        <DateBox part={part} path={`${p}.locatedTo`} label={say('Marks hold until')} />
        <TextBox part={part} path={`${p}.dugBy`} label={say('Dug by')} />
        <TextBox part={part} path={`${p}.liable`} label={say('Liable for damage to services')} />
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
                    <td className="num" style={{ whiteSpace: 'nowrap' }}>
                      <b>{figure(x.n, x.unit)}</b>
                    </td>
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
                    <td style={{ width: 20 }}>
                      <Mark
                        verdict={s.done ? 'pass' : s.waits ? 'unknown' : 'caution'}
                        label={s.done ? 'done' : s.waits ? 'waits' : say('may begin')}
                        size={14}
                      />
                    </td>
                    <td style={{ width: 150 }}>
                      <b>{s.who}</b>
                    </td>
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
      <div style={{ marginTop: 8 }}>
        <Photos job={job} subject={`run-${run.id}`} what={run.name} />
      </div>
      <Row style={{ marginTop: 6 }}>
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
        newRow={() => ({ atM: 1, what: 'boulder', lengthM: 0.5, widthM: 0.5, topMM: 400, bottomMM: 0, option: '' as const, by: '' })}
        columns={[
          { key: 'what', label: say('What') },
          { key: 'atM', label: say('From the start'), scale: units.m, kind: 'number', width: 90 },
          { key: 'lengthM', label: say('Along'), scale: units.m, kind: 'number', width: 70 },
          { key: 'widthM', label: say('To the free side'), scale: units.m, kind: 'number', width: 90 },
          { key: 'topMM', label: say('Top below ground'), scale: units.mm, kind: 'number', width: 100 },
          {
            key: 'option',
            label: say('Decided'),
            kind: 'choice',
            width: 110,
            options: [{ id: '', name: say('not yet') }, ...choices(['around', 'under', 'over', say('break out')])],
          },
          { key: 'by', label: say('By'), width: 110 },
        ]}
      />
      {worked.passings.map((x, i) => (
        <div key={i} data-passing={x.what} style={{ margin: '6px 0' }}>
          <b>{say('Past {{what}}', { what: x.what })}</b>
          {x.ways.map((w) => (
            <Row key={w.option} style={{ padding: '2px 0', alignItems: 'start' }}>
              <Mark verdict={w.ok ? 'pass' : 'fail'} size={13} label={w.ok ? 'possible' : say('not as it is')} />
              <b style={{ minWidth: 80 }}>{w.option}</b>
              <span style={{ flex: 1 }}>
                {w.summary}, {figure(w.hours, 'h')}. {w.why && <b>{say('Not as it is: {{why}}.', { why: w.why })}</b>}
              </span>
            </Row>
          ))}
        </div>
      ))}
    </>
  );
}

/** The earth electrodes: ground, rods, what is expected, what was measured, what the local rule accepts. */
function Electrodes({
  job,
  part,
  sheet,
  open,
  opened,
}: {
  job: Of<'JobView'>;
  part: Part<Of<'Outdoor'>>;
  sheet?: Of<'OutdoorReport'>;
  open: (c: Of<'Check'>) => void;
  opened?: string;
}) {
  const asks = useSheetAsks('outdoor');
  const units = useUnits();
  const rules = sheet?.rules;
  const e = sheet?.electrodes;
  const ruled = part.value.electrodes.measured;
  return (
    <Section data-electrodes>
      <Heading>{say('Earth electrodes')}</Heading>
      {rules && <p style={{ margin: '0 0 8px' }}>{rules.electrode}</p>}
      <Fields>
        <ChoiceBox
          part={part}
          path="electrodes.soil"
          label={say('Ground')}
          empty={say('not looked at')}
          options={(rules?.soils ?? []).map((s) => ({
            id: s.name,
            name: say('{{name}} · {{low}} to {{high}} Ωm', { name: s.name, low: figure(s.low), high: figure(s.high) }),
          }))}
        />
        <FactBox part={part} path="electrodes.soilOhmM" label={say('Resistivity, where measured')} unit="Ωm" />
        <ChoiceBox
          part={part}
          path="electrodes.moisture"
          label={say('Moisture')}
          empty={say('not recorded')}
          options={choices(['wet', 'damp', 'dry'])}
        />
        <FactBox part={part} path="electrodes.measured" label={say('Measured, all together')} unit="Ω" />
        <ChoiceBox
          part={part}
          path="electrodes.method"
          label={say('Measured by')}
          empty={say('not said')}
          options={choices([say('fall of potential'), 'clamp', 'loop'])}
        />
        <YesNoBox part={part} path="electrodes.continuous" label={say('Conductor unbroken from rod to rod')} />
        <TextBox part={part} path="electrodes.ruling" label={say('Local ruling: who, what, when')} />
      </Fields>
      <div style={{ height: 10 }} />
      {rules && (
        <EditTable
          part={part}
          path="electrodes.rods"
          label={say('Rods')}
          add={say('Add a rod')}
          newRow={(rows) => ({
            place: say('rod {{rows}}', { rows: rows.length + 1 }),
            lengthM: rules.rod.lengthM,
            diameterMM: rules.rod.diameterMM,
            spacingM: rows.length ? rules.rod.spacingM : 0,
            topMM: 300,
            mode: 'vertical' as const,
            rock: false,
            angleDeg: 0,
            listed: null,
          })}
          columns={[
            { key: 'place', label: say('Where') },
            { key: 'lengthM', label: say('Length'), scale: units.m, kind: 'number', width: 76 },
            { key: 'diameterMM', label: say('Thickness'), scale: units.mm, kind: 'number', width: 84 },
            { key: 'spacingM', label: say('From the rod before'), scale: units.m, kind: 'number', width: 110, zero: true },
            { key: 'topMM', label: say('Top below ground'), scale: units.mm, kind: 'number', width: 100 },
            { key: 'mode', label: say('Driven'), kind: 'choice', width: 90, options: choices(['vertical', 'slant', 'flat']) },
            { key: 'rock', label: say('Rock met'), kind: 'check', width: 60 },
            {
              key: 'angleDeg',
              label: say('Off the vertical'),
              unit: '°',
              kind: 'number',
              width: 76,
              zero: true,
              hide: (x) => x.mode !== 'slant',
            },
            ...(asks('rodListed')
              ? ([
                  {
                    key: 'listed',
                    label: say('Marked as listed'),
                    yesNo: true,
                    width: 100,
                  },
                ] satisfies Column<Of<'PlacedRod'>>[])
              : []),
          ]}
        />
      )}
      {e?.expectedOhm !== null && e?.expectedOhm !== undefined && (
        <p data-expected={e.expectedOhm}>
          {say('Expected from ground and rods: about')} <b>{figure(e.expectedOhm, 'Ω')}</b>
          {e.lowOhm !== e.highOhm &&
            say(', {{lowOhm}} to {{highOhm}} over the range of such ground', { lowOhm: figure(e.lowOhm), highOhm: figure(e.highOhm, 'Ω') })}
          {say('. Only a reading proves it.')}
        </p>
      )}
      {e && ((ruled.value === null && e.missed.length > 0) || e.checks.some((c) => c.verdict === 'fail')) && e.missed.length > 0 && (
        <p>
          {say('If it is missed: {{missed}}; or treat the ground around it by the manufacturer’s instructions. Then measure again.', {
            missed: e.missed.join('; '),
          })}
        </p>
      )}
      {sheet && sheet.electrodeParts.length > 0 && (
        <ul aria-label={say('Parts of the electrodes')} style={{ margin: '4px 0', paddingLeft: 18 }}>
          {sheet.electrodeParts.map((x) => (
            <li key={x.name}>
              {x.name}: <b>{figure(x.n, x.unit)}</b> <Quiet>{x.rule}</Quiet>
            </li>
          ))}
        </ul>
      )}
      {e && <CheckList checks={e.checks} onOpen={open} opened={opened} />}
      <div style={{ marginTop: 8 }}>
        <Photos job={job} subject="electrodes" what={say('the electrodes')} />
      </div>
    </Section>
  );
}
