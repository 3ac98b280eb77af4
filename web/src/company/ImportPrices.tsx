import { Button } from '@mui/material';
import { useState } from 'react';
import type { Of } from '../api/client';
import { useImportPrices } from '../api/goods';
import { Block, Boxed, P, Quiet, Row, Wrong } from '../parts/layout';
import { say } from '../words/words';

/** Brings in a price list: first what it would change, then the change. */
export function ImportPrices({ version, frozen }: { version: number; frozen: boolean }) {
  const read = useImportPrices();
  const [file, setFile] = useState<Blob>();
  const open = (chosen: Blob | undefined) => {
    if (!chosen) return;
    setFile(chosen);
    read.mutate({ file: chosen, take: false, version });
  };
  const done = () => {
    setFile(undefined);
    read.reset();
  };
  return (
    <Block below="m" className="no-print">
      <Row>
        <Button component="label" disabled={frozen}>
          {say('Bring in a list (CSV or XLSX)')}
          <input
            type="file"
            name="priceList"
            accept=".csv,.xlsx,.txt,text/csv"
            hidden
            onChange={(e) => {
              open(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </Button>
        <Quiet>{say('Nothing is changed before you have seen what would be.')}</Quiet>
      </Row>
      {read.error && <Wrong>{read.error.message}</Wrong>}
      {read.data && file && (
        <Boxed above="s" data-import>
          <Change of={read.data} />
          <Row above="s">
            <Button
              variant="contained"
              disabled={read.data.unread.length > 0 || read.isPending || read.data.added.length + read.data.changed.length === 0}
              onClick={() => read.mutate({ file, take: true, version }, { onSuccess: done })}
            >
              {say('Change the list')}
            </Button>
            <Button onClick={done}>{say('Cancel')}</Button>
          </Row>
        </Boxed>
      )}
    </Block>
  );
}

const shown = 12;

/** What a list would add and change, and the cells that it cannot be read by. */
function Change({ of: c }: { of: Of<'PriceImport'> }) {
  return (
    <>
      <P around="xs">
        {say(
          '{{added}} lines new, {{changed}} figures changed, {{same}} lines the same, {{kept}} lines that the file does not name stay.',
          {
            added: c.added.length,
            changed: c.changed.length,
            same: c.same,
            kept: c.kept,
          },
        )}
      </P>
      {c.unread.length > 0 && (
        <Wrong>{say('{{unread}} cells cannot be read: nothing is taken while there are any.', { unread: c.unread.length })}</Wrong>
      )}
      {c.unread.slice(0, shown).map((e) => (
        <P key={`${e.row} ${e.column}`} around="xs" data-unread>
          {say('Row {{row}}, {{column}}: “{{value}}”. Accepted: {{accept}}', {
            row: e.row,
            column: e.column,
            value: e.value,
            accept: e.accept,
          })}
        </P>
      ))}
      {c.added.slice(0, shown).map((a) => (
        <P key={a} around="xs">
          + {a}
        </P>
      ))}
      {c.changed.slice(0, shown).map((x) => (
        <P key={`${x.key} ${x.column}`} around="xs">
          {x.name}: {x.column} {x.was || '–'} → <b>{x.now || '–'}</b>
        </P>
      ))}
      {c.added.length + c.changed.length > 2 * shown && <Quiet>{say('and more of the same kind.')}</Quiet>}
    </>
  );
}
