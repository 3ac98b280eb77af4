import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useCircuits, useSheetAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { CheckList, type Working } from '../../parts/CheckList';
import { ChoiceBox, FactBox, YesNoBox, choices } from '../../parts/fields';
import { Details, Fields, P, Quiet } from '../../parts/layout';

/** The checks of a room with a bath or shower: its zones and its supplementary bonding. */
const useBathChecks = (job: Of<'JobView'>, room: string) =>
  useCircuits(job.id).data?.report.job.filter((c) => c.sheet === 'survey' && c.object === room) ?? [];

/** Whether the points of a room are measured from a bath or shower. */
export const useBathAsked = (job: Of<'JobView'>, room: Of<'Room'>): boolean => {
  const asks = useSheetAsks('survey');
  return useBathChecks(job, room.id).length > 0 && asks('bath') && room.bath.fitted !== '';
};

interface Props {
  job: Of<'JobView'>;
  part: Part<Of<'Room'>>;
  asked: boolean;
  working: Working;
}

/** What a room has of bath and shower, its supplementary bonding, and what both decide. */
export function BathFields({ job, part, asked, working }: Props) {
  const asks = useSheetAsks('survey');
  const terms = useTerms().data;
  const checks = useBathChecks(job, part.value.id);
  const has = useBathAsked(job, part.value);
  if (!asks('bath') || (checks.length === 0 && !asked)) return null;
  return (
    <Details open={checks.length > 0} data-bath={part.value.bath.fitted}>
      <summary>{say('Bath or shower')}</summary>
      <Fields>
        <ChoiceBox
          part={part}
          path="bath.fitted"
          label={say('Room has')}
          empty={say('not looked at')}
          options={choices(terms?.survey.baths)}
        />
        {has && (
          <>
            <YesNoBox part={part} path="bath.jets" label={say('Cleaned with water jets')} />
            <YesNoBox part={part} path="bath.noMetal" label={say('Looked for: no metal of the building comes in')} sure />
            <FactBox
              part={part}
              path="bath.mainBondOhm"
              label={say('Metal parts to earth')}
              unit="Ω"
              help={say('the highest read from metal of the room to the main earthing terminal')}
            />
            <YesNoBox part={part} path="bath.bonded" label={say('Supplementary bonding joins them')} />
            <FactBox part={part} path="bath.bondMM2" label={say('That bond')} unit="mm²" />
          </>
        )}
      </Fields>
      {has && (
        <P around="s">
          <Quiet>
            {say(
              'Distance from the edge of bath or tray, and the IP code, stand with each point under Table, Where it goes. A circuit ' +
                'that serves the room, or passes through its zones, says so on its own sheet.',
            )}
          </Quiet>
        </P>
      )}
      <CheckList checks={checks} onOpen={(c) => working.open(c)} opened={working.opened} />
    </Details>
  );
}
