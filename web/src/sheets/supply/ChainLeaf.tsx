import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useState } from 'react';
import { newKey, type Of } from '../../api/client';
import { useSheetAsks, useSupply, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, choices } from '../../parts/fields';
import { CheckList } from '../../parts/CheckList';
import { figure } from '../../parts/figure';
import { Caution, Fields, Heading, P, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { useUnits } from '../../parts/units';
import { SaveLine } from '../../parts/SaveLine';
import type { SheetProps } from '../props';
import { ChainDrawing, jointWords } from './ChainDrawing';
import { freshEnclosure } from './enclosure';

/**
 * The chain of enclosures: drawn, each with who owns and opens it, its joint, torque and feed; moved or
 * inserted, all behind it is judged anew.
 */
export function ChainLeaf({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'chain', j.chain);
  const supply = useSupply(job.id).data;
  const terms = useTerms().data?.survey;
  const [selected, setSelected] = useState<string>();
  const chain = part.value;
  const report = supply?.chain;
  const at = chain.enclosures.findIndex((e) => e.id === selected);
  const kinds = terms?.enclosures ?? [];
  const insert = (kind: string, before?: string) => {
    const k = kinds.find((x) => x.id === kind);
    if (!k) return;
    const id = `e-${newKey().slice(0, 8)}`;
    const target = chain.enclosures.find((e) => e.id === before);
    const last = chain.enclosures.at(-1);
    const fresh = freshEnclosure({ id, kind, name: k.name, from: target ? target.from : (last?.id ?? ''), owner: k.owner, new: !!target });
    if (target) fresh.feed = { ...fresh.feed, material: target.feed.material, size: target.feed.size };
    const rest = chain.enclosures.map((e) => (e.id === before ? { ...e, from: id } : e));
    const i = target ? chain.enclosures.indexOf(target) : rest.length;
    part.save('enclosures', [...rest.slice(0, i), fresh, ...rest.slice(i)]);
    setSelected(id);
  };
  const remove = (id: string) => {
    const gone = chain.enclosures.find((e) => e.id === id);
    part.save(
      'enclosures',
      chain.enclosures.filter((e) => e.id !== id).map((e) => (e.from === id ? { ...e, from: gone?.from ?? '' } : e)),
    );
    setSelected(undefined);
  };
  return (
    <>
      <Section>
        <Heading aside={<SaveLine part={part} />}>{say('From the operator’s cable to the last board')}</Heading>
        {report && (
          <P above="none" below="s">
            {report.rule}
          </P>
        )}
        {chain.enclosures.length === 0 ? (
          <p>{say('Nothing in the supply arrangement yet. Start with what comes in from the street, then add what it feeds, in order.')}</p>
        ) : (
          <ChainDrawing
            chain={chain}
            report={report}
            selected={selected}
            onSelect={(id) => setSelected(id === selected ? undefined : id)}
            unit={report?.unit ?? ''}
          />
        )}
        <Row above="s">
          <AddEnclosure kinds={kinds} label={say('Add at the end')} disabled={part.frozen} onAdd={(k) => insert(k)} />
        </Row>
        {report?.jumpers.map((x) => (
          <Wrong key={x.at + x.action}>
            <b data-jumper={`${x.action} ${x.at}`}>
              {say('{{x}} the {{name}} at', { x: x.action === 'take out' ? say('Take out') : say('Put in'), name: x.name })}{' '}
              {chain.enclosures.find((e) => e.id === x.at)?.name}.
            </b>{' '}
            {x.summary}
          </Wrong>
        ))}
      </Section>
      {at >= 0 && (
        <EnclosureFields
          job={job}
          part={part}
          at={at}
          node={report?.nodes.find((n) => n.id === selected)}
          earth={report?.earth ?? 'earth'}
          onInsert={(k) => insert(k, selected)}
          onRemove={() => selected && remove(selected)}
          kinds={kinds}
        />
      )}
      {report && report.checks.length > 0 && (
        <Section>
          <Heading>{say('What the supply arrangement shows')}</Heading>
          <CheckList checks={report.checks} onOpen={(c) => open(c)} opened={opened} />
        </Section>
      )}
    </>
  );
}

function AddEnclosure({
  kinds,
  label,
  disabled,
  onAdd,
}: {
  kinds: Of<'EnclosureKind'>[];
  label: string;
  disabled: boolean;
  onAdd: (kind: string) => void;
}) {
  const [choosing, setChoosing] = useState(false);
  if (!choosing)
    return (
      <Button disabled={disabled} onClick={() => setChoosing(true)}>
        {label}
      </Button>
    );
  return (
    <Row role="group" aria-label={label} gap="s">
      <Quiet>{label}:</Quiet>
      {kinds.map((k) => (
        <Button
          key={k.id}
          onClick={() => {
            onAdd(k.id);
            setChoosing(false);
          }}
        >
          {k.name}
        </Button>
      ))}
      <Button onClick={() => setChoosing(false)}>{say('Cancel')}</Button>
    </Row>
  );
}

function EnclosureFields({
  job,
  part,
  at,
  node,
  earth,
  onInsert,
  onRemove,
  kinds,
}: {
  job: Of<'JobView'>;
  part: Part<Of<'Chain'>>;
  at: number;
  node?: Of<'ChainNode'>;
  earth: string;
  onInsert: (kind: string) => void;
  onRemove: () => void;
  kinds: Of<'EnclosureKind'>[];
}) {
  const terms = useTerms().data;
  const asks = useSheetAsks('chain');
  const units = useUnits();
  const e = part.value.enclosures[at];
  const p = `enclosures[${at}]` as const;
  const others = part.value.enclosures.filter((o) => o.id !== e.id).map((o) => ({ id: o.id, name: o.name }));
  const sizes = choices(terms?.survey.sizes);
  return (
    <Section data-editing={e.id}>
      <Heading
        aside={
          node && (
            <span>
              <Mark verdict={node.verdict} size={13} /> {jointWords(e, node, earth)}
            </span>
          )
        }
      >
        {e.name}
      </Heading>
      {node && (
        <Caution>
          {say('May be opened by:')} <b>{node.mayOpen}</b>. {node.openSays}
        </Caution>
      )}
      {node && node.jointSays && <P around="xs">{node.jointSays}</P>}
      <Fields>
        <TextBox part={part} path={`${p}.name`} label={say('Name')} />
        <ChoiceBox part={part} path={`${p}.kind`} label={say('Kind')} options={kinds} />
        <ChoiceBox part={part} path={`${p}.from`} label={say('Fed from')} options={others} empty={say('the operator’s end')} />
        <ChoiceBox
          part={part}
          path={`${p}.owner`}
          label={say('Owner')}
          empty={say('not said')}
          options={choices([say('network operator'), say('meter operator'), 'customer'])}
        />
        <TextBox part={part} path={`${p}.mayOpen`} label={say('May open, where settled in writing')} />
        <ChoiceBox
          part={part}
          path={`${p}.sealed`}
          label={say('Sealed')}
          empty={say('not looked at')}
          options={choices(['yes', 'no', 'missing', 'broken'])}
        />
        <TextBox part={part} path={`${p}.sealNo`} label={say('Seal number')} />
        <ChoiceBox
          part={part}
          path={`${p}.lineAt`}
          label={say('Line side, by its marking')}
          empty={say('not read')}
          options={choices(['top', 'bottom', 'left', 'right'])}
          help={say('the load side is opposite')}
        />
        <FactBox part={part} path={`${p}.ratingA`} label={say('Rating')} unit="A" />
        <YesNoBox
          part={part}
          path={`${p}.joined`}
          label={say('Neutral and {{earth}} joined in it', { earth })}
          help={say('as found; looked at only where it may be opened')}
        />
        <YesNoBox part={part} path={`${p}.disconnect`} label={say('Disconnects all behind it')} />
        {asks('outside') && (
          <YesNoBox
            part={part}
            path={`${p}.outside`}
            label={say('Stands outdoors, in reach of anybody')}
            help={say('a disconnect for an emergency')}
          />
        )}
        <YesNoBox part={part} path={`${p}.switchesN`} label={say('Switches the neutral')} />
        <YesNoBox part={part} path={`${p}.electrode`} label={say('Has an electrode of its own')} />
        <YesNoBox part={part} path={`${p}.islandedOnly`} label={say('Joint only while islanded')} />
        <FactBox part={part} path={`${p}.torqueNm`} label={say('Terminal torque')} unit="N·m" scale={units.torque} />
        <TextBox part={part} path={`${p}.torqueSheet`} label={say('By the manufacturer’s instruction')} help={say('never from memory')} />
        <TextBox part={part} path={`${p}.condition`} label={say('Condition')} />
        <YesNoBox part={part} path={`${p}.new`} label={say('Put in by this job')} sure />
      </Fields>
      <Heading>{say('What feeds it')}</Heading>
      <Fields>
        <ChoiceBox
          part={part}
          path={`${p}.feed.material`}
          label={say('Conductor')}
          empty={say('not known')}
          options={[
            { id: 'cu', name: 'copper' },
            { id: 'al', name: say('aluminium') },
          ]}
        />
        <ChoiceBox part={part} path={`${p}.feed.size`} label={say('Line and neutral')} empty={say('not known')} options={sizes} />
        <ChoiceBox
          part={part}
          path={`${p}.feed.earthSize`}
          label={earth === 'ground' ? say('Ground') : say('Earth')}
          empty={say('none, or not known')}
          options={sizes}
        />
        <NumberBox part={part} path={`${p}.feed.wires`} label={say('Conductors, earth counted')} help={say('0 when not known')} />
        {asks('deviceA') && <FactBox part={part} path={`${p}.feed.deviceA`} label={say('Device that protects it')} unit="A" />}
        <FactBox part={part} path={`${p}.feed.lengthM`} label={say('Length')} unit="m" scale={units.m} />
        <TextBox
          part={part}
          path={`${p}.feed.way`}
          label={say('In or as')}
          help={say('metal conduit, plastic duct, sheathed cable, overhead')}
        />
      </Fields>
      {node && (
        <P around="s">
          {node.zOhm !== null && (
            <>
              {say('Loop impedance here')} <b>{figure(node.zOhm, 'Ω')}</b> {say('at 20 °C. ')}
            </>
          )}
          {node.faultKA !== null && (
            <>
              {say('Prospective fault current')} <b>{figure(node.faultKA, 'kA')}</b>.{' '}
            </>
          )}
          {node.summary && <Quiet>○ {node.summary}. </Quiet>}
          {node.assumed && <Quiet>{say('◐ rests on an assumed figure.')} </Quiet>}
          {node.wires > 0 && say('Fed by {{wires}} conductors. ', { wires: node.wires })}
          {node.steps.map((s) => (
            <Quiet key={s.symbol}>
              {s.symbol} = {s.formula} = {s.with}.{' '}
            </Quiet>
          ))}
        </P>
      )}
      <Photos job={job} subject={e.id} what={e.name} />
      <Row above="s">
        <AddEnclosure kinds={kinds} label={say('Insert before {{name}}', { name: e.name })} disabled={part.frozen} onAdd={onInsert} />
        <Button disabled={part.frozen} onClick={onRemove}>
          {say('Remove it from the supply arrangement')}
        </Button>
        <Quiet>{say('Ctrl Z brings it back.')}</Quiet>
      </Row>
    </Section>
  );
}
