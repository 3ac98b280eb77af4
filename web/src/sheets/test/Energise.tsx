import { Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Of } from '../../api/client';
import { useRecord } from '../../api/records';
import { sheetName } from '../../frame/sheets';
import { Caution, Details, Heading, Item, List, P, Quiet, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { moment, say } from '../../words/words';

interface EnergiseProps {
  job: Of<'JobView'>;
  may: string;
  waits: Of<'EnergiseWaits'>[];
  at?: Of<'Record'> | null;
  asks: Of<'EnergiseAsk'>[];
}

/** The permission to energise: all that it waits for, what must have been seen, and the locks as they are counted. */
export function Energise({ job, may, waits, at, asks }: EnergiseProps) {
  const record = useRecord(job.id);
  const [seen, setSeen] = useState<Record<string, boolean>>({});
  const [counted, setCounted] = useState('');
  const allowed = job.view.may.includes('energise');
  return (
    <Section>
      <Heading>{say('Permission to energise')}</Heading>
      {at ? (
        <P around="xs">
          <Mark verdict="pass" /> {say('Given by {{by}} ({{role}}), {{at}}.', { by: at.by, role: at.role, at: moment(at.at) })}
        </P>
      ) : (
        <>
          <P around="xs">
            <Mark verdict={may ? 'unknown' : 'caution'} /> {may || say('Every dead test passed and every step before it is done.')}
          </P>
          {waits.length > 1 && (
            <Details data-waits={waits.length}>
              <summary>{say('All {{n}} that it waits for', { n: waits.length })}</summary>
              <List>
                {waits.map((x) => (
                  <Item key={x.why}>
                    {x.why} <Link to={`/jobs/${job.id}/${x.sheet}`}>{say('{{sheet}} sheet', { sheet: sheetName(x.sheet) })}</Link>
                  </Item>
                ))}
              </List>
            </Details>
          )}
          {!may && <Caution>{say('Each is seen by the person who permits it, now, and goes on record.')}</Caution>}
          {asks.map((a) => (
            <FormControlLabel
              key={a.id}
              sx={{ display: 'flex', minHeight: 44 }}
              control={
                <Checkbox
                  checked={!!seen[a.id]}
                  disabled={!!may || !allowed}
                  onChange={(e) => setSeen({ ...seen, [a.id]: e.target.checked })}
                  slotProps={{ input: { name: `seen-${a.id}` } }}
                />
              }
              label={a.title}
            />
          ))}
          <TextField
            label={say('Locks and tags counted where they hang')}
            value={counted}
            disabled={!!may || !allowed}
            helperText={say('count them at the board; the number has to be that of the record')}
            onChange={(e) => setCounted(e.target.value)}
            slotProps={{ htmlInput: { name: 'counted', inputMode: 'numeric', autoComplete: 'off' } }}
          />
          <Button
            variant="contained"
            sx={{ mt: 1, display: 'block' }}
            disabled={
              !!may || !asks.every((a) => seen[a.id]) || !/^\d+$/.test(counted.trim()) || !allowed || record.isPending || job.view.frozen
            }
            onClick={() => record.mutate({ kind: 'energise', confirmed: asks.map((a) => a.id), counted: Number(counted) })}
          >
            {say('Permit')}
          </Button>
          {!allowed && <Quiet> {say('You are not authorised to permit it on this job. The owner grants it, under People.')}</Quiet>}
        </>
      )}
      {record.error && <Wrong>{record.error.message}</Wrong>}
    </Section>
  );
}
