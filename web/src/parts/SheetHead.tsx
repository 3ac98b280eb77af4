import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import type { ReactNode } from 'react';
import type { Of } from '../api/client';
import { Aside, Details, Item, List, Title } from './layout';
import { TablesMenu } from './TablesMenu';

const Head = styled('div')({ display: 'flex', flexWrap: 'wrap', gap: '4px 16px', alignItems: 'baseline', marginBottom: 12 });

const Stands = styled('div')({ color: 'var(--ink2)', fontSize: '.9em', '& > details': { marginTop: 0 } });

/** What a sheet still waits for: one line says how much, and opens on a tap. */
export function Waits({ job, sheet, otherwise }: { job: Of<'JobView'>; sheet: string; otherwise: string }) {
  const waits = job.view.state.holds.filter((h) => h.sheet === sheet);
  if (waits.length === 0) return otherwise;
  return (
    <Details data-waits={waits.length}>
      <summary>{say('{{count}} open', { count: waits.length })}</summary>
      <List>
        {waits.map((h, i) => (
          <Item key={i}>{h.what}</Item>
        ))}
      </List>
    </Details>
  );
}

interface Props {
  title: string;
  summary?: ReactNode;
  job: string;
  tables?: [string, string][]; // table and its name
}

/** The head of a sheet: its name, how it stands in one line, and its tables to take along. */
export function SheetHead({ title, summary, job, tables = [] }: Props) {
  return (
    <Head>
      <Title>{title}</Title>
      <Stands>{summary}</Stands>
      <Aside>
        <TablesMenu job={job} tables={tables} />
      </Aside>
    </Head>
  );
}
