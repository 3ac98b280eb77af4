import { say } from '../../words/words';
import { Checkbox, FormControlLabel } from '@mui/material';
import type { Of } from '../../api/client';
import { useCircuits, useSheetAsks, useSupply, useTerms } from '../../api/job';
import { usePart } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { DateBox } from '../../parts/DateBox';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, bases, noFact } from '../../parts/fields';
import { Block, Caution, Fields, Heading, Section } from '../../parts/layout';
import { Leaves } from '../../parts/Leaves';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead, Waits } from '../../parts/SheetHead';
import type { SheetProps } from '../props';
import { ChainLeaf } from './ChainLeaf';
import { ElectrodeFields } from './ElectrodeFields';
import { DemandLeaf } from './DemandLeaf';
import { DeskLeaf } from './DeskLeaf';
import { IsolationLeaf } from './IsolationLeaf';
import { OutdoorLeaf } from './OutdoorLeaf';
import { OutageLeaf } from './OutageLeaf';
import { StandbyLeaf } from './StandbyLeaf';
import { SurgeLeaf } from './SurgeLeaf';

/**
 * The supply: what comes in, the chain behind it, and the lawful way to make it dead. For the intake, torch
 * in one hand, and the office.
 */
export function SupplySheet(props: SheetProps) {
  const { job, j } = props;
  const leaves = [
    { id: 'found', name: say('As found'), show: () => <AsFound {...props} /> },
    { id: 'demand', name: say('Demand'), show: () => <DemandLeaf {...props} /> },
    { id: 'chain', name: say('Supply arrangement'), show: () => <ChainLeaf {...props} /> },
    { id: 'isolation', name: say('Safe isolation'), show: () => <IsolationLeaf job={job} j={j} /> },
    { id: 'desk', name: say('Network operator'), show: () => <DeskLeaf job={job} j={j} /> },
    { id: 'surge', name: say('Surge'), show: () => <SurgeLeaf {...props} /> },
    { id: 'standby', name: say('Standby'), show: () => <StandbyLeaf {...props} /> },
    { id: 'outdoor', name: say('Outdoor works'), show: () => <OutdoorLeaf {...props} /> },
    { id: 'outage', name: say('Outage'), show: () => <OutageLeaf job={job} j={j} /> },
  ];
  return (
    <>
      <SheetHead
        title={say('Supply')}
        job={job.id}
        summary={<Waits job={job} sheet="supply" otherwise={say('The supply is known.')} />}
        tables={[
          ['supply', say('Supply')],
          ['chain', say('Supply arrangement')],
        ]}
      />
      <Leaves label={say('Leaves of the supply')} leaves={leaves} idle={job.view.idle} />
    </>
  );
}

/** The incoming supply as found: what is measured, asked or only assumed. */
function AsFound({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'supply', j.supply);
  const terms = useTerms().data;
  const asks = useSheetAsks('supply');
  const report = useCircuits(job.id).data?.report;
  const number = useSupply(job.id).data?.number;
  return (
    <>
      <Caution>
        {say(
          'Look, do not touch: the cable, the sealed fuse and the meter are the operator’s. Heat, smell, damage or a ' +
            'loose head is reported and left alone.',
        )}
      </Caution>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('As found')}</Heading>
        <Fields least={290}>
          <ChoiceBox
            part={part}
            path="earthing"
            label={say('Earthing arrangement')}
            options={terms?.earthing ?? []}
            empty={say('not yet seen')}
          />
          {asks('earthingBy') && (
            <ChoiceBox
              part={part}
              path="earthingBy"
              label={say('Arrangement known by')}
              empty={say('not said')}
              options={bases('seen', say('the operator’s word'))}
              help={say('only the operator knows whether its network combines neutral and earth somewhere')}
            />
          )}
          <NumberBox part={part} path="declaredV" label={say('Declared voltage')} unit="V" />
          {asks('zeOhm') && <FactBox part={part} path="zeOhm" label={say('External loop impedance Ze')} unit="Ω" />}
          <FactBox part={part} path="pfcKA" label={say('Prospective fault current')} unit="kA" />
          <FactBox part={part} path="mainFuseA" label={say('Main fuse')} unit="A" />
          <TextBox part={part} path="mainFuseType" label={say('Kind of fuse, seal')} />
          {asks('tailsMM2') && <FactBox part={part} path="tailsMM2" label={say('Tails')} unit="mm²" />}
          {asks('tailsM') && <FactBox part={part} path="tailsM" label={say('Length of the tails')} unit="m" />}
          <FactBox part={part} path="earthMM2" label={say('Main earthing conductor')} unit="mm²" />
          {asks('earthTo') && (
            <ChoiceBox
              part={part}
              path="earthTo"
              label={say('Earthing conductor runs to')}
              empty={say('not looked at')}
              options={terms?.earthTo ?? []}
              help={say('each other electrode has its own line below')}
            />
          )}
          {asks('earthLaid') && (
            <ChoiceBox
              part={part}
              path="earthLaid"
              label={say('Earthing conductor lies')}
              empty={say('not looked at')}
              options={terms?.earthLaid ?? []}
            />
          )}
          {asks('neutralMM2') && <FactBox part={part} path="neutralMM2" label={say('Operator’s neutral')} unit="mm²" />}
          {asks('intersystem') && <YesNoBox part={part} path="intersystem" label={say('Bonding place for telephone and data')} />}
          {asks('electrodeOhm') && j.supply.earthing === 'TT' && <ElectrodeFields job={job} j={j} part={part} />}
          <TextBox part={part} path="operator" label={say('Network operator')} />
          <TextBox
            part={part}
            path="number"
            label={say('Supply number')}
            help={
              number && (
                <span data-number={number.verdict}>
                  <Mark verdict={number.verdict} size={11} /> {number.summary}
                </span>
              )
            }
          />
          <TextBox
            part={part}
            path="meterSerial"
            label={say('Serial on the meter')}
            help={say('another number: it changes with the meter')}
          />
          <DateBox part={part} path="meter.on" label={say('Meter set on')} />
          <TextBox part={part} path="meter.out" label={say('Reading as it came out')} />
          <TextBox
            part={part}
            path="meter.serial"
            label={say('Serial of another meter')}
            help={say('empty where the same one went back')}
          />
          <TextBox part={part} path="meter.reading" label={say('Reading as it went in')} />
          <TextBox part={part} path="meter.seal" label={say('Seal on the meter')} />
          <TextBox
            part={part}
            path="registered"
            label={say('Address the operator holds')}
            help={
              part.value.registered && part.value.registered.trim().toLowerCase() !== j.site.address.trim().toLowerCase()
                ? say('◐ not as on the Survey sheet: {{address}}. Report it.', { address: j.site.address })
                : undefined
            }
          />
          <TextBox part={part} path="condition" label={say('Condition of the intake')} lines={1} />
        </Fields>
        <Block above="s">
          <Photos job={job} subject="intake" what={say('the intake')} />
        </Block>
      </Section>
      <Section>
        <Heading>{say('Main bonding')}</Heading>
        <EditTable
          part={part}
          path="bonds"
          label={say('Main bonding')}
          add={say('Add a service')}
          newRow={() => ({ service: 'service', kind: '', mm2: noFact, circuitA: 0, around: null, new: false, lengthM: noFact })}
          columns={[
            { key: 'service', label: say('Service that comes in metal') },
            ...(asks('bondKind')
              ? [
                  {
                    key: 'kind' as const,
                    label: say('What it is'),
                    kind: 'choice' as const,
                    width: 300,
                    options: [{ id: '', name: say('not looked') }, ...(terms?.bondKinds ?? [])],
                  },
                ]
              : []),
            { key: 'mm2.value' as const, label: say('Bond'), unit: 'mm²', kind: 'number', optional: true, width: 100 },
            {
              key: 'mm2.basis' as const,
              label: say('Known by'),
              kind: 'choice',
              width: 130,
              options: [{ id: '', name: say('not yet') }, ...bases('seen', 'told')],
            },
            { key: 'new' as const, label: say('Made by this job'), kind: 'check' as const, width: 70 },
            {
              key: 'lengthM.value' as const,
              label: say('Length'),
              unit: 'm',
              kind: 'number' as const,
              optional: true,
              width: 90,
              hide: (b: Of<'Bond'>) => !b.new,
            },
            {
              key: 'lengthM.basis' as const,
              label: say('Length known by'),
              kind: 'choice' as const,
              width: 130,
              options: [{ id: '', name: say('not yet') }, ...bases('measured', 'estimated', 'assumed')],
              hide: (b: Of<'Bond'>) => !b.new,
            },
            ...(asks('bondsAround')
              ? [
                  {
                    key: 'circuitA' as const,
                    label: say('Circuit that may make it live'),
                    unit: 'A',
                    kind: 'number' as const,
                    zero: true,
                    width: 90,
                    hide: (b: Of<'Bond'>) => b.kind !== 'gas-pipe' && b.kind !== 'other-pipe',
                  },
                  {
                    key: 'around' as const,
                    label: say('Jumper around the meter'),
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
        <Heading>{say('Checks of the supply')}</Heading>
        <CheckList checks={report?.job ?? []} onOpen={(c) => open(c)} opened={opened} />
      </Section>
    </>
  );
}
