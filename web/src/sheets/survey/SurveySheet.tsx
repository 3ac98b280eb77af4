import { say } from '../../words/words';
import type { Of } from '../../api/client';
import { useSheetAsks, useTerms } from '../../api/job';
import { usePart, type Part } from '../../api/part';
import type { Column } from '../../parts/column';
import { EditTable } from '../../parts/EditTable';
import { ChoiceBox, FactBox, NumberBox, TextBox, YesNoBox, bases } from '../../parts/fields';
import { Fields, Heading, Section } from '../../parts/layout';
import { Leaves } from '../../parts/Leaves';
import { SaveLine } from '../../parts/SaveLine';
import { SheetHead, Waits } from '../../parts/SheetHead';
import type { SheetProps } from '../props';
import { CaseForWork } from './CaseForWork';
import { EditionChoice } from './EditionChoice';
import { Existing } from './Existing';
import { Routes } from './Routes';
import { Scope } from './Scope';
import { SettingOut } from './SettingOut';
import { Walk } from './Walk';

/**
 * The survey: the walk, what is there already, the ways of the cables, the case for the work and what was
 * agreed. For the walk, on a phone.
 */
export function SurveySheet({ job, j, open, opened }: SheetProps) {
  const walk = {
    id: 'walk',
    name: say('Rooms'),
    count: job.view.walk.unread,
    show: () => <Walk job={job} j={j} working={{ open, opened }} />,
  };
  const routes = { id: 'routes', name: say('Cable routes'), show: () => <Routes job={job} j={j} /> };
  const site = { id: 'site', name: say('Site and loads'), show: () => <SiteAndLoads job={job} j={j} /> };
  const setOut = { id: 'setting-out', name: say('Setting-out'), show: () => <SettingOut job={job} /> };
  const rest = [
    { id: 'existing', name: say('Existing installation'), show: () => <Existing job={job} j={j} /> },
    { id: 'case', name: say('Survey report'), show: () => <CaseForWork job={job} j={j} /> },
    { id: 'scope', name: say('Scope and variations'), show: () => <Scope job={job} j={j} /> },
  ];
  // A rewire begins with the walk, a single circuit with its way.
  const leaves = j.kind === 'rewire' ? [walk, site, ...rest, routes, setOut] : [site, routes, walk, ...rest, setOut];
  return (
    <>
      <SheetHead
        title={say('Survey')}
        job={job.id}
        summary={<Waits job={job} sheet="survey" otherwise={say('Everything asked of the survey is there.')} />}
        tables={[
          ['points', say('Points')],
          ['low-voltage', say('Extra-low voltage')],
          ['loads', say('Loads')],
          ['route', say('Routes')],
        ]}
      />
      <Leaves label={say('Leaves of the survey')} leaves={leaves} idle={job.view.idle} />
    </>
  );
}

/** Who and where, and what the house draws already. */
function SiteAndLoads({ job, j }: { job: Of<'JobView'>; j: Of<'Job'> }) {
  const site = usePart(job, 'site', j.site);
  const loads = usePart(job, 'loads', j.loads);
  const terms = useTerms().data;
  const asks = useSheetAsks('loads');
  const surveyAsks = useSheetAsks('survey');
  return (
    <>
      <Section>
        <Heading aside={<SaveLine part={site} />}>{say('Site and customer')}</Heading>
        <Fields>
          <TextBox part={site} path="customer" label={say('Customer')} />
          <TextBox part={site} path="phone" label={say('Phone')} />
          <TextBox part={site} path="email" label={say('Email')} />
          <TextBox part={site} path="address" label={say('Address')} />
          <TextBox part={site} path="town" label={say('Town')} />
          {surveyAsks('premises') && (
            <ChoiceBox
              part={site}
              path="premises"
              label={say('Premises')}
              empty={say('not recorded')}
              options={terms?.premises ?? []}
              help={say('decides arc-fault detection and the years to the next inspection')}
            />
          )}
          {job.view.about.extent && (
            <>
              <TextBox part={site} path="extent" label={say('Extent: what the work and its papers cover')} lines={2} />
              <TextBox part={site} path="limits" label={say('Limitations: what was not looked into, and why')} lines={2} />
            </>
          )}
          <TextBox part={site} path="access" label={say('Access')} lines={1} />
          <TextBox
            part={site}
            path="hazards"
            label={say('Hazards on site')}
            lines={1}
            help={say(
              'Stands at the head of First fix, Second fix and Test. What closes the work until it is cleared, as ' +
                'suspected asbestos, goes under Hazards on the way.',
            )}
          />
        </Fields>
      </Section>
      <EditionChoice job={job} edition={j.edition} />
      {(job.view.about.load || j.loads.items.length > 0) && (
        <Section>
          <Heading aside={<SaveLine part={loads} />}>{say('What the house draws already')}</Heading>
          {asks('areaM2') && (
            <Fields below="s" least={290}>
              <FactBox part={loads as Part} path="areaM2" label={say('Habitable floor area')} unit="m²" />
              {asks('peak') && <FactBox part={loads as Part} path="peakKVA" label={say('Recorded peak, 15 minutes')} unit="kVA" />}
              {asks('peak') && (
                <NumberBox
                  part={loads as Part}
                  path="peakDays"
                  label={say('Days of the record')}
                  help={say('30 at least, or a year’s peak')}
                />
              )}
              {asks('peak') && loads.value.peakKVA.value !== null && (
                <>
                  <NumberBox
                    part={loads as Part}
                    path="seasonFactor"
                    label={say('Raised to the heaviest season by')}
                    help={say('a factor from 1, for a record of less than a year; 0: not worked out')}
                  />
                  <YesNoBox part={loads as Part} path="generation" label={say('Generation or peak shaving ran meanwhile')} />
                </>
              )}
              {asks('basementM2') && <FactBox part={loads as Part} path="basementM2" label={say('Of a basement, beside that')} unit="m²" />}
            </Fields>
          )}
          <EditTable
            part={loads as Part}
            path="items"
            label={say('Existing load')}
            add={say('Add a load')}
            newRow={() => ({
              name: say('Load'),
              category: terms?.categories.at(-1)?.id ?? '',
              watts: 1000,
              amps: null,
              count: 1,
              socketInUnit: false,
              volts: 0,
              motor: false,
              interlocked: false,
              roomControl: false,
              basis: 'assumed',
            })}
            columns={[
              { key: 'name', label: say('Load') },
              { key: 'category', label: say('Counts as'), kind: 'choice', options: terms?.categories ?? [], width: 190 },
              { key: 'watts', label: say('Power'), unit: 'W', kind: 'number', optional: true, width: 84 },
              { key: 'amps', label: say('or current'), unit: 'A', kind: 'number', optional: true, width: 92 },
              { key: 'count', label: say('Pieces'), kind: 'number', width: 60 },
              {
                key: 'basis',
                label: say('Known by'),
                kind: 'choice',
                width: 110,
                options: bases(say('seen, rated'), 'told'),
              },
              ...(asks('motors')
                ? ([
                    { key: 'volts', label: say('At'), unit: 'V', kind: 'number', zero: true, width: 60 },
                    { key: 'motor', label: say('Motor'), kind: 'check', width: 56 },
                    {
                      key: 'interlocked',
                      label: say('Never with the compressor'),
                      kind: 'check',
                      width: 84,
                      hide: (l) => l.category !== 'strips',
                    },
                    {
                      key: 'roomControl',
                      label: say('Control in each room'),
                      kind: 'check',
                      width: 76,
                      hide: (l) => l.category !== 'heating' && l.category !== 'strips',
                    },
                  ] satisfies Column<Of<'Load'>>[])
                : []),
              ...(asks('socketInUnit')
                ? ([
                    {
                      key: 'socketInUnit',
                      label: say('Socket in cooker unit'),
                      kind: 'check',
                      width: 70,
                      hide: (l) => l.category !== 'cooker',
                    },
                  ] satisfies Column<Of<'Load'>>[])
                : []),
            ]}
          />
        </Section>
      )}
    </>
  );
}
