import { ImportPrices } from './ImportPrices';
import { KitList } from './KitList';
import { Norms } from './Norms';
import { PriceRule } from './PriceRule';
import { Shelf } from './Shelf';
import { say } from '../words/words';
import { Button } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { newKey, Trouble, type Of } from '../api/client';
import type { Part, Status } from '../api/part';
import { get, put } from '../api/paths';
import { saveCompany, useCompany, useTerms } from '../api/job';
import { Shell, useFrame } from '../frame/Shell';
import { kindNames } from '../jobs/kinds';
import { LocalRules } from '../parts/LocalRules';
import { SchoolFields } from '../parts/SchoolFields';
import { EditTable } from '../parts/EditTable';
import { ChoiceBox, TextBox } from '../parts/fields';
import { Aside, Block, Fields, Heading, P, Page, Quiet, Row, Section, SubHead, Title, Wrong } from '../parts/layout';
import { SaveLine } from '../parts/SaveLine';

type Company = Of<'Company'>;

/** The company's own price and hours list, instruments and defaults. For the office. */
export function CompanyPage() {
  const company = useCompany();
  return (
    <Shell crumb={say('Prices, hours and instruments')}>
      <Page most={1000}>
        {company.error && <Wrong>{company.error.message}</Wrong>}
        {company.data && <Lists company={company.data} />}
      </Page>
    </Shell>
  );
}

function Lists({ company }: { company: Company }) {
  const { me } = useFrame();
  const client = useQueryClient();
  const terms = useTerms().data;
  const practices = terms?.practices ?? [];
  const kits = terms?.kit ?? [];
  const [draft, setDraft] = useState<Company>(company);
  const [status, setStatus] = useState<Status>('saved');
  const [summary, setSummary] = useState('');
  const [errors, setErrors] = useState<Record<string, string>>({});
  const body = useRef(company);
  const key = useRef(newKey());
  const [theirs, setTheirs] = useState<Part['theirs']>();
  // What others saved is taken over only while nothing here waits to be saved.
  useEffect(() => {
    if (status !== 'saved') return;
    body.current = company;
    setDraft(company);
  }, [company, status]);
  const may = me.manages;
  const part = useMemo<Part<Company>>(() => {
    const set = (path: string, value: unknown) => {
      if (get(body.current, path) === value) return;
      body.current = put(body.current, path, value);
      key.current = newKey();
      setDraft(body.current);
      setStatus('draft');
    };
    const again = (next: Company) => {
      body.current = next;
      setDraft(next);
      setTheirs(undefined);
      setErrors({});
    };
    return {
      name: 'company',
      value: draft,
      frozen: !may,
      status,
      summary,
      errors,
      theirs,
      set,
      commit: () => {},
      save: set,
      keepMine: () => {
        again({ ...body.current, version: theirs?.version ?? body.current.version });
        setStatus('draft');
      },
      takeTheirs: () => {
        again(company);
        setStatus('saved');
        void client.invalidateQueries({ queryKey: ['company'] });
      },
    };
  }, [draft, may, status, summary, errors, theirs, company, client]);
  const save = async () => {
    setStatus('saving');
    try {
      client.setQueryData(['company'], await saveCompany(body.current, key.current));
      setErrors({});
      setStatus('saved');
      void client.invalidateQueries({ queryKey: ['circuits'] });
      void client.invalidateQueries({ queryKey: ['job'] });
      for (const priced of ['quote', 'case']) void client.invalidateQueries({ queryKey: [priced] });
    } catch (e) {
      const t = e as Trouble;
      setErrors(
        Object.fromEntries(
          (t.problem?.fields ?? []).map((f) => [
            `company.${f.field}`,
            say('“{{value}}” is not accepted: {{accept}}.', { value: f.value, accept: f.accept }),
          ]),
        ),
      );
      setSummary(t.message);
      setTheirs(t.problem?.theirs);
      setStatus(t.problem?.theirs ? 'conflict' : t.status === 422 ? 'refused' : 'failed');
    }
  };
  return (
    <>
      <Row below="m">
        <Title>{company.name}</Title>
        <Quiet>{say('net prices in {{currency}}', { currency: company.currency || say('your currency') })}</Quiet>
        <Aside gap="m">
          {status === 'draft' && <Quiet>{say('Changed, not yet saved.')}</Quiet>}
          <Button variant="contained" disabled={!may || status === 'saved' || status === 'saving'} onClick={() => void save()}>
            {say('Save')}
          </Button>
        </Aside>
      </Row>
      {['refused', 'failed', 'conflict'].includes(status) && <SaveLine part={{ ...part, commit: () => void save() }} />}
      {!may && <p>{say('Only the owner, the supervisor or the office change these.')}</p>}
      <Section>
        <Heading>{say('On the paper')}</Heading>
        <Fields>
          <TextBox part={part} path="address" label={say('Address')} />
          <TextBox part={part} path="phone" label={say('Telephone')} help={say('whom an owner calls')} />
          <TextBox part={part} path="licence" label={say('Licence or registration')} />
          <ChoiceBox
            part={part}
            path="locale"
            label={say('Dates and words')}
            options={[
              { id: 'en-GB', name: say('British English, 4 Mar, 22:05') },
              { id: 'en-US', name: say('American English, Mar 4, 10:05 PM') },
              { id: 'en-CA', name: say('Canadian English, Mar 4, 10:05 p.m.') },
            ]}
            help={say('Where no job is open; a job speaks as its practice.')}
          />
        </Fields>
      </Section>
      <Section>
        <Heading>{say('How a job begins')}</Heading>
        <Fields>
          <TextBox
            part={part}
            path="refs"
            label={say('Numbering of jobs')}
            help={say('such as PW-{n}, or {yy}-{n:3}; empty: each is typed')}
          />
          <ChoiceBox part={part} path="practice" label={say('Practice')} empty={say('the first that is offered')} options={practices} />
          <ChoiceBox
            part={part}
            path="kind"
            label={say('Kind')}
            empty={say('none is usual')}
            options={Object.entries(kindNames).map(([id, name]) => ({ id, name: say(name) }))}
          />
        </Fields>
      </Section>
      <PriceRule part={part} />
      <Section>
        <Heading
          aside={
            <>
              <a href="/api/tables/prices" download>
                {say('Prices as CSV')}
              </a>{' '}
              <a href="/api/tables/prices?format=xlsx" download>
                {say('XLSX')}
              </a>
            </>
          }
        >
          {say('Prices and hours')}
        </Heading>
        <P above="none">
          <Quiet>
            {say(
              'A line is found by its key: the order list names it. Keys that start with hours: replace the plan’s ' +
                'norms; work: lines price findings, with a range where “up to” is given; point: lines price points and ' +
                'variations.',
            )}
          </Quiet>
        </P>
        <ImportPrices version={company.version} frozen={part.frozen} />
        <EditTable
          part={part}
          path="prices"
          label={say('Prices and hours')}
          add={say('Add a line')}
          newRow={(rows) => ({
            key: `new-${rows.length + 1}`,
            name: say('New line'),
            unit: 'pcs',
            price: 0,
            hours: 0,
            high: 0,
            packs: [],
            leadDays: 0,
            merchant: '',
            instead: [],
          })}
          columns={[
            { key: 'key', label: say('Key'), width: 220 },
            { key: 'name', label: say('Name') },
            { key: 'unit', label: say('Unit'), width: 60 },
            { key: 'price', label: say('Price'), kind: 'number', width: 90 },
            { key: 'high', label: say('up to'), kind: 'number', width: 90, zero: true },
            { key: 'hours', label: say('Hours'), kind: 'number', width: 80 },
            { key: 'packs', label: say('Sold in, as 50 | 100'), kind: 'figures', width: 100 },
            { key: 'leadDays', label: say('Lead, days'), kind: 'number', width: 70, zero: true },
            { key: 'merchant', label: say('Merchant'), width: 100 },
            { key: 'instead', label: say('Else, by key'), kind: 'words', width: 110 },
          ]}
        />
      </Section>
      <Norms part={part} />
      <Section>
        <Heading
          aside={
            <a href="/api/tables/instruments" download>
              {say('Instruments as CSV')}
            </a>
          }
        >
          {say('Test instruments')}
        </Heading>
        <EditTable
          part={part}
          path="instruments"
          label={say('Instruments')}
          add={say('Add an instrument')}
          newRow={() => ({ name: say('New instrument'), serial: '', calibrated: '', kit: '' })}
          columns={[
            { key: 'name', label: say('Name') },
            {
              key: 'kit',
              label: say('What it is'),
              kind: 'choice',
              width: 240,
              options: [{ id: '', name: say('not said') }, ...kits.filter((k) => k.group === 'instrument')],
            },
            { key: 'serial', label: say('Serial') },
            { key: 'calibrated', label: say('Calibrated to, as 2027-03-31') },
          ]}
        />
      </Section>
      <Shelf prices={draft.prices} may={me.starts} />
      <KitList part={part} />
      <Section>
        <Heading>{say('Company practice')}</Heading>
        <P above="none">
          <Quiet>{say('Where practitioners differ: a new job starts with these, each job can choose otherwise.')}</Quiet>
        </P>
        {practices.map((p) => (
          <Block key={p.id} below="m">
            <SubHead>{p.name}</SubHead>
            <SchoolFields part={part} prefix="schools." practice={p.id} />
          </Block>
        ))}
        <LocalRules part={part} prefix="schools." />
      </Section>
    </>
  );
}
