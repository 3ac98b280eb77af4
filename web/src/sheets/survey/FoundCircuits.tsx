import { useState } from 'react';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import type { Column } from '../../parts/column';
import { EditTable } from '../../parts/EditTable';
import { Block, Details, Heading, Quiet, Scroll, Section, SheetTable, Td } from '../../parts/layout';
import { OneOf } from '../../parts/OneOf';
import { SaveLine } from '../../parts/SaveLine';
import { useUnits } from '../../parts/units';
import { say } from '../../words/words';

type Found = Column<Of<'FoundCircuit'>>;

/** The circuits as they were found: what each is, and how its wiring and its end at the board look. */
export function FoundCircuits({ j, part, colours }: { j: Of<'Job'>; part: Part<Of<'Found'>>; colours: Of<'Colour'>[] }) {
  const units = useUnits();
  const [side, setSide] = useState<'what' | 'how'>('what');
  const existing = j.circuits.filter((k) => k.state !== '');
  const what: Found[] = [
    {
      key: 'circuit',
      label: say('Circuit of the job'),
      kind: 'choice',
      width: 150,
      options: [{ id: '', name: say('none yet') }, ...existing.map((k) => ({ id: k.id, name: k.name }))],
    },
    { key: 'device', label: say('Device'), width: 110 },
    {
      key: 'state',
      label: say('State'),
      kind: 'choice',
      width: 140,
      options: [
        { id: '', name: say('not looked at') },
        { id: 'live', name: say('live') },
        { id: 'dead', name: say('dead') },
        { id: 'cut at one end', name: say('cut at one end') },
        { id: 'unidentified', name: say('unidentified') },
      ],
    },
    { key: 'proved', label: say('Known by'), width: 170 },
    { key: 'method', label: say('How it runs'), width: 120 },
    { key: 'note', label: say('Note') },
  ];
  const how: Found[] = [
    {
      key: 'wiring',
      label: say('Wiring'),
      kind: 'choice',
      width: 140,
      options: [
        { id: '', name: say('not seen') },
        { id: 'sheathed', name: say('sheathed cable') },
        { id: 'conduit', name: say('in conduit') },
        { id: 'armoured', name: say('armoured') },
        { id: 'aluminium', name: say('aluminium') },
        { id: 'rubber', name: say('rubber') },
        { id: 'fabric', name: say('fabric') },
        { id: 'lead', name: say('lead sheath') },
        { id: 'open', name: say('open on insulators') },
      ],
    },
    {
      key: 'colours',
      label: say('Core colours'),
      kind: 'choice',
      width: 110,
      options: [
        { id: '', name: say('not seen') },
        { id: 'old', name: say('old') },
        { id: 'new', name: say('new') },
        { id: 'mixed', name: say('mixed') },
      ],
    },
    {
      key: 'insulation',
      label: say('Insulation'),
      kind: 'choice',
      width: 120,
      options: [
        { id: '', name: say('not seen') },
        { id: 'sound', name: say('sound') },
        { id: 'brittle', name: say('brittle') },
        { id: 'damaged', name: say('damaged') },
        { id: 'gnawed', name: say('gnawed') },
      ],
    },
    {
      key: 'terminal',
      label: say('In its terminal'),
      kind: 'choice',
      width: 215,
      options: [
        { id: '', name: say('not seen') },
        { id: 'one', name: say('one conductor') },
        { id: 'listed', name: say('as many as it is made for') },
        { id: 'crowded', name: say('more than it is made for') },
      ],
    },
    { key: 'tailM.value', label: say('Tail to spare'), scale: units.m, kind: 'number', optional: true, width: 100 },
    { key: 'joint', label: say('Joint box planned'), kind: 'check', width: 90 },
  ];
  return (
    <Section>
      <Heading aside={<SaveLine part={part} />}>{say('Circuits found')}</Heading>
      <Block below="s">
        <OneOf
          label={say('What the table shows')}
          value={side}
          onChange={setSide}
          choices={[
            { id: 'what', name: say('What it is') },
            { id: 'how', name: say('How it looks') },
          ]}
        />
      </Block>
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
          joint: false,
          circuit: '',
          insulation: '' as const,
          terminal: '' as const,
        })}
        columns={[{ key: 'name', label: say('Circuit') }, ...{ what, how }[side]]}
      />
      <Colours colours={colours} />
    </Section>
  );
}

function Colours({ colours }: { colours: Of<'Colour'>[] }) {
  return (
    <Details>
      <summary>{say('Core colours, old and new')}</summary>
      <Scroll>
        <SheetTable aria-label={say('Core colours')}>
          <tbody>
            {colours.map((c, i) => (
              <tr key={i}>
                <Td width={70}>{c.era}</Td>
                <Td width={130}>{c.function}</Td>
                <td>{c.colour}</td>
                <td>{c.warn && <Quiet>◐ {c.warn}</Quiet>}</td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
    </Details>
  );
}
