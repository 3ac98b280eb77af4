import { Button, Menu, MenuItem } from '@mui/material';
import { useId, useState } from 'react';
import { say } from '../words/words';

/** The tables of a sheet to take along, each as CSV and as a workbook: one button, so that the head of the sheet stays one line. */
export function TablesMenu({ job, tables }: { job: string; tables: [string, string][] }) {
  const [at, setAt] = useState<HTMLElement | null>(null);
  const id = useId();
  if (tables.length === 0) return null;
  const shut = () => setAt(null);
  return (
    <>
      <Button
        className="no-print"
        aria-haspopup="menu"
        aria-expanded={at !== null}
        aria-controls={at ? id : undefined}
        onClick={(e) => setAt(e.currentTarget)}
      >
        {say('Tables')}
      </Button>
      <Menu id={id} anchorEl={at} open={at !== null} onClose={shut} slotProps={{ list: { 'aria-label': say('Tables') } }}>
        {tables.flatMap(([t, name]) => [
          <MenuItem key={t} component="a" href={`/api/jobs/${job}/tables/${t}`} download onClick={shut}>
            {say('{{name}} as CSV', { name })}
          </MenuItem>,
          <MenuItem key={`${t}-xlsx`} component="a" href={`/api/jobs/${job}/tables/${t}?format=xlsx`} download onClick={shut}>
            {say('{{name}} as XLSX', { name })}
          </MenuItem>,
        ])}
      </Menu>
    </>
  );
}
