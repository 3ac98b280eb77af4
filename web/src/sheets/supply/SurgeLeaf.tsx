import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useCircuits, useSheetAsks, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import type { Column } from '../../parts/column';
import { EditTable } from '../../parts/EditTable';
import { useSchoolAsks } from '../../parts/SchoolFields';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, choices } from '../../parts/fields';
import { Caution, Fields, Heading, Quiet, Section } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import { leaves } from '../board/ways';
import type { SheetProps } from '../props';

/** Whether surge protection is needed, by the rule of the job, and each device with its leads. For the office. */
export function SurgeLeaf({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'surge', j.surge);
  const checks = (useCircuits(job.id).data?.report.job ?? []).filter((c) => c.leaf === 'surge');
  const bound = part as Part;
  const asks = useSheetAsks('surge');
  const terms = useTerms().data;
  const branch = new Set(terms?.uses.filter((u) => u.asks.includes('surge')).map((u) => u.id));
  const branches = j.circuits.filter((c) => branch.has(c.use) && !leaves(c)).map((c) => ({ id: c.id, name: c.name }));
  const byLevel = useSchoolAsks(j.schools, j.practice)('surge-level');
  return (
    <>
      <Caution>
        {say('A surge device stands on the live side of the board: isolate, lock and prove dead before its cover comes off.')}
      </Caution>
      {asks('need') && (
        <Section>
          <Heading aside={<SaveLine part={part} />}>{say('Is it needed')}</Heading>
          <Fields>
            <ChoiceBox
              part={bound}
              path="consequence"
              label={say('An overvoltage could cost')}
              empty={say('not asked yet')}
              options={[
                { id: 'life', name: say('life, or a service that safety rests on') },
                { id: 'loss', name: say('much of value, or data') },
                { id: 'other', name: say('a loss that the owner may accept') },
              ]}
            />
            {part.value.consequence === 'other' && (
              <TextBox
                part={bound}
                path="ownerAccepts"
                label={say('Who declared it tolerable')}
                help={say('leave empty until the owner has said so')}
              />
            )}
            <YesNoBox part={bound} path="rod" label={say('Lightning protection on the building')} sure />
            <YesNoBox part={bound} path="exposed" label={say('Overhead line open to strikes')} sure />
            {byLevel && (
              <>
                <ChoiceBox
                  part={bound}
                  path="environment"
                  label={say('Surroundings')}
                  options={choices(['rural', 'suburban', 'urban'])}
                  empty={say('not recorded')}
                />
                <FactBox part={bound} path="flashes" label={say('Flashes to ground, a year')} unit="/km²" />
                <NumberBox part={bound} path="overheadLV" label={say('Low voltage, overhead')} unit="km" />
                <NumberBox part={bound} path="cableLV" label={say('Low voltage, cable')} unit="km" />
                <NumberBox part={bound} path="overheadHV" label={say('High voltage, overhead')} unit="km" />
                <NumberBox part={bound} path="cableHV" label={say('High voltage, cable')} unit="km" />
                <YesNoBox part={bound} path="unknownRest" label={say('The rest up to 1 km is not known')} sure />
              </>
            )}
          </Fields>
          <Quiet>
            {byLevel
              ? say('Decided by the calculated risk level; the choice is on the Circuits sheet.')
              : say('Decided by the consequence; the choice is on the Circuits sheet.')}
          </Quiet>
        </Section>
      )}
      <Section>
        <Heading aside={!asks('need') && <SaveLine part={part} />}>{say('Devices, from the origin on')}</Heading>
        <EditTable
          part={bound}
          path="devices"
          label={say('Surge devices')}
          add={say('Add a surge device')}
          newRow={(rows) => ({
            name: say('Surge device {{rows}}', { rows: rows.length + 1 }),
            place: rows.length ? 'load' : 'origin',
            type: rows.length ? '3' : '2',
            upKV: 0,
            ucV: 0,
            lineM: 0.25,
            earthM: 0.25,
            lineMM2: 0,
            earthMM2: 0,
            backupA: 0,
            isccrKA: 0,
            scheme: '',
            behindRCD: false,
            toLoadM: 0,
            fromM: 0,
            matched: false,
            inKA: 0,
            branchA: 0,
            neutralEarth: null,
            circuit: '',
            kept: false,
          })}
          // So many figures need their width: the table scrolls.
          columns={(
            [
              { key: 'name', label: say('Device'), width: 150 },
              { key: 'place', label: say('Place'), kind: 'choice', width: 88, options: choices(['origin', 'board', 'load']) },
              { key: 'type', label: say('Type'), kind: 'choice', width: 70, options: choices(['1', '1+2', '2', '3']) },
              { key: 'kept' as const, label: say('Was there, stays'), kind: 'check', width: 66 },
              ...(branches.length
                ? [
                    {
                      key: 'circuit' as const,
                      label: say('Its branch'),
                      kind: 'choice' as const,
                      width: 120,
                      options: [{ id: '', name: say('none of its own') }, ...branches],
                    },
                  ]
                : []),
              {
                key: 'upKV',
                label: asks('letThrough') ? say('Lets through') : say('Up'),
                unit: 'kV',
                kind: 'number',
                width: 56,
                zero: true,
              },
              ...(asks('scheme')
                ? [{ key: 'ucV' as const, label: say('Uc'), unit: 'V', kind: 'number' as const, width: 56, zero: true }]
                : []),
              { key: 'lineM' as const, label: say('Line lead'), unit: 'm', kind: 'number', width: 62 },
              { key: 'earthM' as const, label: say('Earth lead'), unit: 'm', kind: 'number', width: 62 },
              { key: 'lineMM2' as const, label: say('Line'), unit: 'mm²', kind: 'number', width: 58, zero: true },
              { key: 'earthMM2' as const, label: say('Earth'), unit: 'mm²', kind: 'number', width: 58, zero: true },
              {
                key: 'backupA' as const,
                label: asks('letThrough') ? say('Own breaker') : say('Fuse allowed'),
                unit: 'A',
                kind: 'number',
                width: 66,
                zero: true,
              },
              { key: 'isccrKA' as const, label: say('Bears'), unit: 'kA', kind: 'number', width: 58, zero: true },
              ...(asks('inKA')
                ? [{ key: 'inKA' as const, label: say('Nominal discharge'), unit: 'kA', kind: 'number' as const, width: 66, zero: true }]
                : []),
              ...(!asks('scheme')
                ? []
                : ([
                    {
                      key: 'scheme',
                      label: say('Scheme'),
                      kind: 'choice',
                      width: 76,
                      options: [{ id: '', name: '–' }, ...choices(['CT1', 'CT2'])],
                    },
                    { key: 'branchA', label: say('Own branch'), unit: 'A', kind: 'number', width: 62, zero: true },
                    {
                      key: 'neutralEarth',
                      label: say('Neutral to earth'),
                      yesNo: true,
                      width: 116,
                    },
                    { key: 'behindRCD', label: say('After a residual device'), kind: 'check', width: 66 },
                    { key: 'toLoadM', label: say('To the load'), unit: 'm', kind: 'number', width: 62 },
                    { key: 'fromM', label: say('From the one ahead'), unit: 'm', kind: 'number', width: 66 },
                    { key: 'matched', label: say('Declared matched'), kind: 'check', width: 66 },
                  ] satisfies Column<Of<'SurgeDevice'>>[])),
            ] satisfies Column<Of<'SurgeDevice'>>[]
          ).map((c) => ({ ...c, keep: true }))}
        />
      </Section>
      <Section>
        <Heading aside={<Quiet>{say('a line opens its working')}</Quiet>}>{say('Checks')}</Heading>
        {checks.length ? (
          <CheckList checks={checks} onOpen={(c) => open(c)} opened={opened} />
        ) : (
          <p>{say('Nothing asked yet on this job.')}</p>
        )}
      </Section>
    </>
  );
}
