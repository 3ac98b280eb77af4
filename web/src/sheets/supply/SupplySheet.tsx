import { Checkbox, FormControlLabel } from '@mui/material';
import type { Of } from '../../api/client';
import { useCircuits, useSheetAsks, useSupply, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, bases, choices } from '../../parts/fields';
import { Caution, Fields, Heading, Section } from '../../parts/layout';
import { Leaves } from '../../parts/Leaves';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { useSay } from '../../parts/practice';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead, waitsFor } from '../../parts/SheetHead';
import type { SheetProps } from '../props';
import { ChainLeaf } from './ChainLeaf';
import { DemandLeaf } from './DemandLeaf';
import { DeskLeaf } from './DeskLeaf';
import { IsolationLeaf } from './IsolationLeaf';
import { OutdoorLeaf } from './OutdoorLeaf';
import { OutageLeaf } from './OutageLeaf';
import { StandbyLeaf } from './StandbyLeaf';
import { SurgeLeaf } from './SurgeLeaf';

/** The supply: what comes in, the chain behind it, and the lawful way to make it dead. For the intake, torch in one hand, and the office. */
export function SupplySheet(props: SheetProps) {
  const { job, j } = props;
  const say = useSay();
  const leaves = [
    { id: 'found', name: 'As found', show: () => <AsFound {...props} /> },
    { id: 'demand', name: 'Demand', show: () => <DemandLeaf {...props} /> },
    { id: 'chain', name: say('Supply arrangement'), show: () => <ChainLeaf {...props} /> },
    { id: 'isolation', name: say('Safe isolation'), show: () => <IsolationLeaf job={job} j={j} /> },
    { id: 'desk', name: say('Network operator'), show: () => <DeskLeaf job={job} j={j} /> },
    { id: 'surge', name: 'Surge', show: () => <SurgeLeaf {...props} /> },
    { id: 'standby', name: 'Standby', show: () => <StandbyLeaf {...props} /> },
    { id: 'outdoor', name: 'Outdoor works', show: () => <OutdoorLeaf {...props} /> },
    { id: 'outage', name: 'Outage', show: () => <OutageLeaf job={job} j={j} /> },
  ];
  return (
    <>
      <SheetHead
        title="Supply"
        job={job.id}
        says={waitsFor(job, 'supply', 'The supply is known.')}
        tables={[
          ['supply', 'Supply'],
          ['chain', 'Supply arrangement'],
        ]}
      />
      <Leaves label="Leaves of the supply" leaves={leaves} />
    </>
  );
}

/** The incoming supply as found: what is measured, asked or only assumed. */
function AsFound({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'supply', j.supply);
  const terms = useTerms().data;
  const asks = useSheetAsks('supply');
  const say = useSay();
  const report = useCircuits(job.id).data?.report;
  const number = useSupply(job.id).data?.number;
  return (
    <>
      <Caution>
        Look, do not touch: the cable, the sealed fuse and the meter are the operator’s. Heat, smell, damage or a loose head is reported and
        left alone.
      </Caution>
      <Section>
        <Heading aside={<SaveLine part={part} />}>As found</Heading>
        <Fields style={{ gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 290px), 1fr))' }}>
          <ChoiceBox part={part} path="earthing" label="Earthing arrangement" options={choices(terms?.earthing)} empty="not yet seen" />
          {asks('earthingBy') && (
            <ChoiceBox
              part={part}
              path="earthingBy"
              label="Arrangement known by"
              empty="not said"
              options={bases('seen', 'the operator’s word')}
              help="only the operator knows whether its network combines neutral and earth somewhere"
            />
          )}
          <NumberBox part={part} path="declaredV" label="Declared voltage" unit="V" />
          {asks('zeOhm') && <FactBox part={part} path="zeOhm" label="External loop impedance Ze" unit="Ω" />}
          <FactBox part={part} path="pfcKA" label="Prospective fault current" unit="kA" />
          <FactBox part={part} path="mainFuseA" label="Main fuse" unit="A" />
          <TextBox part={part} path="mainFuseType" label="Kind of fuse, seal" />
          {asks('tailsMM2') && <FactBox part={part} path="tailsMM2" label="Tails" unit="mm²" />}
          {asks('tailsM') && <FactBox part={part} path="tailsM" label="Length of the tails" unit="m" />}
          <FactBox part={part} path="earthMM2" label="Main earthing conductor" unit="mm²" />
          {asks('earthTo') && (
            <ChoiceBox
              part={part}
              path="earthTo"
              label="Earthing conductor runs to"
              empty="not looked at"
              options={terms?.earthTo ?? []}
              help="each other electrode has its own line below"
            />
          )}
          {asks('earthLaid') && (
            <ChoiceBox
              part={part}
              path="earthLaid"
              label="Earthing conductor lies"
              empty="not looked at"
              options={terms?.earthLaid ?? []}
            />
          )}
          {asks('neutralMM2') && <FactBox part={part} path="neutralMM2" label="Operator’s neutral" unit="mm²" />}
          {asks('intersystem') && <YesNoBox part={part} path="intersystem" label="Bonding place for telephone and data" />}
          {asks('electrodeOhm') && j.supply.earthing === 'TT' && (
            <FactBox part={part} path="electrodeOhm" label="Earth electrode" unit="Ω" />
          )}
          <TextBox part={part} path="operator" label="Network operator" />
          <TextBox
            part={part}
            path="number"
            label="Number of the supply"
            help={
              number && (
                <span data-number={number.verdict}>
                  <Mark verdict={number.verdict} size={11} /> {number.says}
                </span>
              )
            }
          />
          <TextBox part={part} path="meterSerial" label="Serial on the meter" help="another number: it changes with the meter" />
          <TextBox
            part={part}
            path="registered"
            label="Address the operator holds"
            help={
              part.value.registered && part.value.registered.trim().toLowerCase() !== j.site.address.trim().toLowerCase()
                ? `◐ not as on the Survey sheet: ${j.site.address}. Report it.`
                : undefined
            }
          />
          <TextBox part={part} path="condition" label="Condition of the intake" lines={1} />
        </Fields>
        <div style={{ marginTop: 8 }}>
          <Photos job={job} subject="intake" what="the intake" />
        </div>
      </Section>
      <Section>
        <Heading>Main bonding</Heading>
        <EditTable<Of<'Bond'>>
          part={part as Part}
          path="bonds"
          label="Main bonding"
          add="Add a service"
          fresh={() => ({ service: 'service', kind: '', mm2: { value: null, basis: '', note: '' }, circuitA: 0, around: null })}
          columns={[
            { key: 'service', label: 'Service that comes in metal' },
            ...(asks('bondKind')
              ? [
                  {
                    key: 'kind',
                    label: 'What it is',
                    kind: 'choice' as const,
                    width: 300,
                    options: [{ id: '', name: 'not looked' }, ...(terms?.bondKinds ?? [])],
                  },
                ]
              : []),
            { key: 'mm2.value', label: 'Bond', unit: 'mm²', kind: 'number', optional: true, width: 100 },
            {
              key: 'mm2.basis',
              label: 'Known by',
              kind: 'choice',
              width: 130,
              options: [{ id: '', name: 'not yet' }, ...bases('seen', 'told')],
            },
            ...(asks('bondsAround')
              ? [
                  {
                    key: 'circuitA',
                    label: 'Circuit that may make it live',
                    unit: 'A',
                    kind: 'number' as const,
                    zero: true,
                    width: 90,
                    hide: (b: Of<'Bond'>) => b.kind !== 'gas-pipe' && b.kind !== 'other-pipe',
                  },
                  {
                    key: 'around',
                    label: 'Jumper around the meter',
                    yesNo: true,
                    width: 130,
                  },
                ]
              : []),
          ]}
        />
        <FormControlLabel
          control={
            <Checkbox
              checked={part.value.noExtraneous}
              disabled={part.frozen}
              onChange={(e) => part.save('noExtraneous', e.target.checked)}
            />
          }
          label={say('Looked for: nothing comes in that needs main bonding')}
        />
      </Section>
      <Section>
        <Heading>Checks of the supply</Heading>
        <CheckList checks={report?.job ?? []} onOpen={(c) => open(c)} opened={opened} />
      </Section>
    </>
  );
}
