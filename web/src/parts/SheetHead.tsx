import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import type { ReactNode } from 'react';
import type { Of } from '../api/client';
import { Quiet, Title } from './layout';

const Head = styled('div')({ display: 'flex', flexWrap: 'wrap', gap: '4px 16px', alignItems: 'baseline', marginBottom: 12 });
const Links = styled('span')({ marginLeft: 'auto', display: 'flex', gap: 12, fontSize: '.9em' });

/** What a sheet still waits for, in one sentence. */
export function waitsFor(job: Of<'JobView'>, sheet: string, otherwise: string): string {
  const waits = job.view.state.holds.filter((h) => h.sheet === sheet);
  return waits.length ? say('Open: {{waits}}.', { waits: waits.map((h) => h.what).join(', ') }) : otherwise;
}

interface Props {
  title: string;
  summary?: ReactNode;
  job: string;
  tables?: [string, string][]; // table and its name
}

/** The head of a sheet: its name, one sentence on how it stands, and its tables as CSV. */
export function SheetHead({ title, summary, job, tables = [] }: Props) {
  return (
    <Head>
      <Title>{title}</Title>
      <Quiet>{summary}</Quiet>
      <Links className="no-print">
        {tables.map(([t, name]) => (
          <span key={t}>
            <a href={`/api/jobs/${job}/tables/${t}`} download>
              {say('{{name}} as CSV', { name })}
            </a>{' '}
            <a href={`/api/jobs/${job}/tables/${t}?format=xlsx`} download>
              {say('XLSX')}
            </a>
          </span>
        ))}
      </Links>
    </Head>
  );
}
