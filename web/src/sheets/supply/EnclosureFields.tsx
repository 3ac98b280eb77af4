import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useState } from 'react';
import { type Of } from '../../api/client';
import { useSheetAsks, useTerms } from '../../api/job';
import { type Part } from '../../api/part';
import { DateBox } from '../../parts/DateBox';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, choices } from '../../parts/fields';
import { figure } from '../../parts/figure';
import { Caution, Details, Fields, Heading, P, Quiet, Row, Section } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { Photos } from '../../parts/Photos';
import { useUnits } from '../../parts/units';
import { jointWords } from './ChainDrawing';

/** Puts an enclosure of a kind at the end of the supply arrangement or before another. */
export function AddEnclosure({
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

/** Whether anything of what is folded was looked at: then it is shown. */
const toldMore = (e: Of<'Enclosure'>) =>
  [e.switchesN, e.electrode, e.islandedOnly, e.outside, e.torqueNm.value].some((x) => x !== null) ||
  [e.mayOpen, e.sealNo, e.lineAt, e.enters, e.condition, e.feed.way, e.feed.earthSize].some((x) => x !== '');

/** What is known of one enclosure and of the conductor that feeds it. */
export function EnclosureFields({
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
  // One that was written down by hand before stays to be seen.
  const ways = choices([...new Set([...(terms?.survey.feedWays ?? []), ...(e.feed.way ? [e.feed.way] : [])])]);
  const [open, setOpen] = useState(() => toldMore(e));
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
        <ChoiceBox
          part={part}
          path={`${p}.sealed`}
          label={say('Sealed')}
          empty={say('not looked at')}
          options={choices(['yes', 'no', 'missing', 'broken'])}
        />
        <FactBox part={part} path={`${p}.ratingA`} label={say('Rating')} unit="A" />
        <YesNoBox
          part={part}
          path={`${p}.joined`}
          label={say('Neutral and {{earth}} joined in it', { earth })}
          help={say('as found; looked at only where it may be opened')}
        />
        <YesNoBox part={part} path={`${p}.disconnect`} label={say('Disconnects all behind it')} />
        <YesNoBox part={part} path={`${p}.new`} label={say('Put in by this job')} sure />
        {e.new && (
          <ChoiceBox
            part={part}
            path={`${p}.mounted`}
            label={say('Fixed to')}
            empty={say('not looked at')}
            options={choices(terms?.survey.mountings)}
            help={say('its fixings follow from it')}
          />
        )}
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
        <FactBox part={part} path={`${p}.feed.lengthM`} label={say('Length')} unit="m" scale={units.m} />
      </Fields>
      <Details open={open} onToggle={(x) => setOpen(x.currentTarget.open)}>
        <summary>{say('More of it: seal number, terminals, marking, who may open it')}</summary>
        <Fields>
          <TextBox part={part} path={`${p}.mayOpen`} label={say('May open, where settled in writing')} />
          <TextBox part={part} path={`${p}.sealNo`} label={say('Seal number')} />
          {(e.sealed === 'yes' || e.owner !== 'customer') && (
            <>
              <TextBox part={part} path={`${p}.unsealed.by`} label={say('Unsealed or allowed by')} />
              <TextBox part={part} path={`${p}.unsealed.reference`} label={say('Reference of that')} />
              <DateBox part={part} path={`${p}.unsealed.on`} label={say('Unsealed or allowed on')} />
            </>
          )}
          <ChoiceBox
            part={part}
            path={`${p}.lineAt`}
            label={say('Line side, by its marking')}
            empty={say('not read')}
            options={choices(['top', 'bottom', 'left', 'right'])}
            help={say('the load side is opposite')}
          />
          <ChoiceBox
            part={part}
            path={`${p}.enters`}
            label={say('Conductors from the operator enter at')}
            empty={say('not looked at')}
            options={choices(['top', 'bottom', 'left', 'right'])}
          />
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
          <ChoiceBox
            part={part}
            path={`${p}.feed.earthSize`}
            label={earth === 'ground' ? say('Ground') : say('Earth')}
            empty={say('none, or not known')}
            options={sizes}
          />
          <NumberBox part={part} path={`${p}.feed.wires`} label={say('Conductors, earth counted')} help={say('0 when not known')} />
          {asks('deviceA') && <FactBox part={part} path={`${p}.feed.deviceA`} label={say('Device that protects it')} unit="A" />}
          <ChoiceBox part={part} path={`${p}.feed.way`} label={say('In or as')} empty={say('not said')} options={ways} />
        </Fields>
      </Details>
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
