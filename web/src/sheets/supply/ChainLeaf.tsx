import { say } from '../../words/words';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { newKey } from '../../api/client';
import { useSupply, useTerms } from '../../api/job';
import { usePart } from '../../api/part';
import { CheckList } from '../../parts/CheckList';
import { Heading, P, Row, Section, Wrong } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import type { SheetProps } from '../props';
import { boardNodes } from './boardNodes';
import { ChainDrawing } from './ChainDrawing';
import { freshEnclosure } from './enclosure';
import { AddEnclosure, EnclosureFields } from './EnclosureFields';

/**
 * The chain of enclosures: drawn, each with who owns and opens it, its joint, torque and feed; moved or
 * inserted, all behind it is judged anew.
 */
export function ChainLeaf({ job, j, open, opened }: SheetProps) {
  const part = usePart(job, 'chain', j.chain);
  const supply = useSupply(job.id).data;
  const terms = useTerms().data?.survey;
  const go = useNavigate();
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
        {chain.enclosures.length === 0 && j.boards.length === 0 ? (
          <p>{say('Nothing in the supply arrangement yet. Start with what comes in from the street, then add what it feeds, in order.')}</p>
        ) : (
          <ChainDrawing
            chain={chain}
            report={report}
            selected={selected}
            onSelect={(id) => setSelected(id === selected ? undefined : id)}
            unit={report?.unit ?? ''}
            boards={boardNodes(j)}
            onBoard={(id) => void go(`/jobs/${job.id}/board?leaf=${id || 'main'}`)}
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
          key={selected}
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
