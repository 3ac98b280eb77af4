import { say } from '../../words/words';
import { Button } from '@mui/material';
import { newKey, type Of } from '../../api/client';
import { useOutdoor, useSheetAsks } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import type { Column } from '../../parts/column';
import { EditTable } from '../../parts/EditTable';
import { GroundMarks } from '../../parts/GroundMarks';
import { ChoiceBox, FactBox, TextBox, YesNoBox, choices, noFact } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Block, Caution, Fields, Heading, List, P, Quiet, Row, Section } from '../../parts/layout';
import { Photos } from '../../parts/Photos';
import { useUnits } from '../../parts/units';
import { SaveLine } from '../../parts/SaveLine';
import type { SheetProps } from '../props';
import { RunSection } from './OutdoorRun';

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
        riser: '',
        radiusMM: 0,
        coverMM: 0,
        stretches: [
          {
            place: say('first stretch'),
            lengthM: 5,
            basis: 'assumed',
            surface: '',
            coverMM: kind === 'trench' ? 600 : 4000,
            dugMM: noFact,
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
      <Row below="m">
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
      {rules && (
        <P above="none" below="s">
          {rules.electrode}
        </P>
      )}
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
      <Block above="m" />
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
        <List aria-label={say('Parts of the electrodes')}>
          {sheet.electrodeParts.map((x) => (
            <li key={x.name}>
              {x.name}: <b>{figure(x.n, x.unit)}</b> <Quiet>{x.rule}</Quiet>
            </li>
          ))}
        </List>
      )}
      {e && <CheckList checks={e.checks} onOpen={open} opened={opened} />}
      <GroundMarks job={job.id} part={part} path="electrodes.marks" of={(c) => c.object === 'electrodes'} open={open} opened={opened} />
      <Block above="s">
        <Photos job={job} subject="electrodes" what={say('the electrodes')} />
      </Block>
    </Section>
  );
}
