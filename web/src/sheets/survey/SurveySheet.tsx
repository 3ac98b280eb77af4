import type { Of } from '../../api/client';
import { useCircuits, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, TextBox, bases } from '../../parts/fields';
import { Fields, Heading, NotYet, Section } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead, waitsFor } from '../../parts/SheetHead';
import { AddCircuit } from '../circuits/AddCircuit';
import { PointFields } from '../circuits/PointFields';
import { RouteTable } from '../circuits/RouteTable';
import type { SheetProps } from '../JobPage';

/** The survey: who and where, what the house draws already, and the way of each new cable. For the walk, on a phone or a laptop. */
export function SurveySheet({ job, j }: SheetProps) {
  const site = usePart(job, 'site', j.site);
  const loads = usePart(job, 'loads', j.loads);
  const terms = useTerms().data;
  return (
    <>
      <SheetHead
        title="Survey"
        job={job.id}
        says={waitsFor(job, 'survey', 'Everything asked of the survey is there.')}
        tables={[
          ['loads', 'Loads'],
          ['route', 'Routes'],
        ]}
      />
      <Section>
        <Heading aside={<SaveLine part={site} />}>Site and customer</Heading>
        <Fields>
          <TextBox part={site} path="customer" label="Customer" />
          <TextBox part={site} path="phone" label="Phone" />
          <TextBox part={site} path="email" label="Email" />
          <TextBox part={site} path="address" label="Address" />
          <TextBox part={site} path="town" label="Town" />
          <ChoiceBox
            part={site}
            path="premises"
            label="Premises"
            empty="not yet known"
            options={[
              { id: 'owner-occupied', name: 'owner-occupied' },
              { id: 'rented', name: 'rented' },
            ]}
            help="decides the years to the next inspection"
          />
          <TextBox part={site} path="access" label="Access" lines={1} />
          <TextBox
            part={site}
            path="hazards"
            label="Hazards on site"
            lines={1}
            help="Suspected asbestos is not disturbed: write it here and stop."
          />
        </Fields>
      </Section>
      <Section>
        <Heading aside={<SaveLine part={loads} />}>What the house draws already</Heading>
        <EditTable<Of<'Load'>>
          part={loads as Part}
          path="items"
          label="Existing load"
          add="Add a load"
          fresh={() => ({
            name: 'Load',
            category: 'other_points',
            watts: 1000,
            amps: null,
            count: 1,
            socketInUnit: false,
            basis: 'assumed',
          })}
          columns={[
            { key: 'name', label: 'Load' },
            { key: 'category', label: 'Counts as', kind: 'choice', options: terms?.categories ?? [], width: 190 },
            { key: 'watts', label: 'Power', unit: 'W', kind: 'number', optional: true, width: 84 },
            { key: 'amps', label: 'or current', unit: 'A', kind: 'number', optional: true, width: 92 },
            { key: 'count', label: 'Pieces', kind: 'number', width: 60 },
            {
              key: 'basis',
              label: 'Known by',
              kind: 'choice',
              width: 110,
              options: bases('seen, rated', 'told'),
            },
            { key: 'socketInUnit', label: 'Socket in cooker unit', kind: 'check', width: 70, hide: (l) => l.category !== 'cooker' },
          ]}
        />
      </Section>
      {j.circuits.map((c) => (
        <SurveyCircuit key={c.id} job={job} circuit={c} />
      ))}
      <AddCircuit job={job} />
      <NotYet>
        rooms and their points in shorthand, photos, observations on the existing installation, and variations. This sheet takes the site,
        the existing load and the way of each new cable.
      </NotYet>
    </>
  );
}

function SurveyCircuit({ job, circuit }: { job: Of<'JobView'>; circuit: Of<'Circuit'> }) {
  const part = usePart(job, `circuits/${circuit.id}`, circuit);
  const report = useCircuits(job.id).data?.report.circuits.find((c) => c.id === circuit.id);
  return (
    <Section data-circuit={circuit.id}>
      <Heading aside={<SaveLine part={part} />}>{circuit.name}: where it goes and the way of its cable</Heading>
      <PointFields part={part} />
      <div style={{ height: 12 }} />
      <RouteTable part={part} lengthM={report?.summary.lengthM} />
    </Section>
  );
}
