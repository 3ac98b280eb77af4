import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useSheetAsks, useTerms } from '../../api/job';
import type { Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { NumberBox, bases, choices } from '../../parts/fields';
import { Fields, Quiet } from '../../parts/layout';
import { useUnits } from '../../parts/units';
import { back as toBoard } from './run/run';

const isBuried = (s: Of<'Segment'>) => s.method === 'D';

/** The way of the cable as ordered stretches, each under its own conditions, with slack and tails. */
export function RouteTable({ part, lengthM }: { part: Part<Of<'Circuit'>>; lengthM?: number }) {
  const terms = useTerms().data;
  const units = useUnits();
  const asks = useSheetAsks('conductor');
  const { route } = part.value;
  const { boxes, back } = part.value.serves;
  const cable = terms?.cables.find((c) => c.id === route.cableType);
  const methods = (cable?.methods ?? []).map((id) => ({ id, name: terms?.methods.find((m) => m.id === id)?.name ?? id }));
  return (
    <>
      <EditTable
        part={part}
        path="route.segments"
        label={say('Route, in order from the board')}
        add={say('Add a stretch')}
        least={1}
        newRow={(rows) => {
          const last = rows.at(-1) ?? terms?.defaults[0].route.segments[0];
          return { ...(last as Of<'Segment'>), place: say('next stretch'), lengthM: 1, basis: 'assumed' as const };
        }}
        columns={[
          { key: 'place', label: say('Stretch') },
          { key: 'lengthM', label: say('Length'), unit: 'm', kind: 'number', width: 78 },
          ...(boxes.length > 1 || back
            ? [
                {
                  key: 'to' as const,
                  label: say('Leads to'),
                  kind: 'choice' as const,
                  width: 120,
                  options: [
                    { id: '', name: say('not said') },
                    ...boxes.map((b) => ({ id: b.id, name: b.name })),
                    ...(back ? [{ id: toBoard, name: say('back to the board') }] : []),
                  ],
                },
              ]
            : []),
          {
            key: 'basis',
            label: say('Known by'),
            kind: 'choice',
            width: 104,
            options: [{ id: '', name: say('not said yet') }, ...bases('measured', 'drawing')],
          },
          { key: 'method', label: say('Method'), kind: 'choice', width: 150, options: methods },
          { key: 'ambientC', label: say('Ambient'), unit: '°C', kind: 'number', width: 66 },
          { key: 'grouped', label: say('Grouped'), kind: 'number', width: 62 },
          { key: 'insulationMM', label: say('Insulation'), unit: 'mm', kind: 'number', width: 74 },
          { key: 'depthMM', label: say('Cover'), unit: 'mm', kind: 'number', width: 66, hide: (s) => !isBuried(s) },
          ...(terms?.coverPlaces.length
            ? [
                {
                  key: 'surface' as const,
                  label: say('Under'),
                  kind: 'choice' as const,
                  width: 120,
                  hide: (s: Of<'Segment'>) => !isBuried(s),
                  options: [{ id: '', name: say('not said') }, ...choices(terms.coverPlaces)],
                },
              ]
            : []),
          ...(asks('soil')
            ? [
                {
                  key: 'duct' as const,
                  label: say('In a duct'),
                  yesNo: true,
                  width: 92,
                  hide: (s: Of<'Segment'>) => !isBuried(s),
                },
                {
                  key: 'soilKmW' as const,
                  label: say('Soil'),
                  unit: 'K·m/W',
                  kind: 'number' as const,
                  width: 66,
                  hide: (s: Of<'Segment'>) => !isBuried(s),
                },
              ]
            : []),
          { key: 'vertical' as const, label: say('Up'), kind: 'check', width: 30 },
        ]}
      />
      <Fields above="m" least={150}>
        <NumberBox part={part} path="route.slackM" label={say('Slack left')} unit="m" />
        <NumberBox part={part} path="route.boardTailM" label={say('Tail at the board')} unit="m" />
        <NumberBox part={part} path="route.pointTailM" label={say('Tail at the point')} unit="m" />
        <span>
          <Quiet>{say('Cable in all')}</Quiet>
          <br />
          <b data-figure="length">{units.show(lengthM, 'm')}</b>
        </span>
      </Fields>
    </>
  );
}
