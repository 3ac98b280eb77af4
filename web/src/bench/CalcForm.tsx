import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import { Button, TextField } from '@mui/material';
import type { Of } from '../api/client';
import { Block, Details, Fields, P, Quiet, Row as Line, Scroll, SheetTable } from '../parts/layout';
import { top, under, type Filled, type Row } from './input';

const Inputs = styled('fieldset')({ border: '1px solid var(--rule)', margin: '10px 0', padding: '6px 12px 12px' });
const More = styled('summary')({ cursor: 'pointer', padding: '8px 0' });

type Field = Of<'CalcField'>;

const label = (f: Field) => (f.unit ? `${f.label}, ${f.unit}` : f.label);
const help = (f: Field) => [f.doc, f.range].filter(Boolean).join('; ');

// Two fields side by side also on a phone.
const grid = { gridTemplateColumns: 'repeat(auto-fill, minmax(min(45%, 190px), 1fr))' };

interface One {
  field: Field;
  value: string;
  onValue: (text: string) => void;
  bare?: boolean;
}

function OneField({ field, value, onValue, bare }: One) {
  const common = {
    label: bare ? undefined : label(field),
    value,
    helperText: bare ? undefined : help(field),
    onChange: (e: { target: { value: string } }) => onValue(e.target.value),
  };
  const html = { 'data-in': field.key, 'aria-label': bare ? label(field) : undefined };
  if (field.type.startsWith('yes'))
    return (
      <TextField {...common} select slotProps={{ select: { native: true }, htmlInput: html }}>
        <option value="">{field.optional ? say('not said') : 'no'}</option>
        <option value="yes">{say('yes')}</option>
        {field.optional && <option value="no">{say('no')}</option>}
      </TextField>
    );
  return (
    <TextField
      {...common}
      placeholder={{ list: '1.2 0.8 over', 'list of lists': '12 6; 14 2', 'numbers by name': 'oven 3200; lights 400' }[field.type]}
      slotProps={{ htmlInput: { ...html, inputMode: field.type.startsWith('number') ? 'decimal' : 'text', autoComplete: 'off' } }}
    />
  );
}

interface Props {
  fields: Field[];
  filled: Filled;
  onFill: (f: Filled) => void;
}

/** The inputs of a calculation as its keys say: single figures, groups, and lists of rows. */
export function CalcForm({ fields, filled, onFill }: Props) {
  const set = (key: string, v: string | Row[]) => onFill({ ...filled, [key]: v });
  const single = top(fields).filter((f) => under(fields, f.key).length === 0);
  const needed = single.filter((f) => !f.optional);
  const more = single.filter((f) => f.optional);
  const nested = top(fields).filter((f) => under(fields, f.key).length > 0);
  return (
    <>
      <Fields style={grid}>
        {needed.map((f) => (
          <OneField key={f.key} field={f} value={(filled[f.key] as string | undefined) ?? ''} onValue={(v) => set(f.key, v)} />
        ))}
      </Fields>
      {nested.map((f) =>
        f.type === 'object' ? (
          <Inputs key={f.key}>
            <legend>
              {label(f)} {f.doc && <Quiet>{f.doc}</Quiet>}
            </legend>
            <Fields style={grid}>
              {under(fields, f.key).map((g) => (
                <OneField
                  key={g.key}
                  field={g}
                  value={(filled[`${f.key}.${g.key}`] as string | undefined) ?? ''}
                  onValue={(v) => set(`${f.key}.${g.key}`, v)}
                />
              ))}
            </Fields>
          </Inputs>
        ) : (
          <Rows
            key={f.key}
            field={f}
            fields={under(fields, f.key)}
            rows={(filled[f.key] as Row[] | undefined) ?? [{}]}
            onRows={(r) => set(f.key, r)}
          />
        ),
      )}
      {more.length > 0 && (
        <Details above="m">
          <More>
            {say('More, each may stay empty:')} <Quiet>{more.map((f) => label(f)).join(' · ')}</Quiet>
          </More>
          <Fields style={grid}>
            {more.map((f) => (
              <OneField key={f.key} field={f} value={(filled[f.key] as string | undefined) ?? ''} onValue={(v) => set(f.key, v)} />
            ))}
          </Fields>
        </Details>
      )}
    </>
  );
}

function Rows({ field, fields, rows, onRows }: { field: Field; fields: Field[]; rows: Row[]; onRows: (rows: Row[]) => void }) {
  const named = field.type === 'lists by name' ? [{ key: 'name', type: 'text', doc: field.doc } as Field, ...fields] : fields;
  return (
    <Block around="m">
      <P above="none" below="xs">
        {label(field)} {field.doc && <Quiet>{field.doc}</Quiet>}
      </P>
      <Scroll>
        <SheetTable aria-label={label(field)}>
          <thead>
            <tr>
              {named.map((f) => (
                <th key={f.key} scope="col">
                  {label(f)} {f.doc && f.key !== 'name' && <Quiet>{f.doc}</Quiet>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={i}>
                {named.map((f) => (
                  <td key={f.key}>
                    <OneField
                      bare
                      field={f}
                      value={row[f.key] ?? ''}
                      onValue={(v) => onRows(rows.map((r, k) => (k === i ? { ...r, [f.key]: v } : r)))}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </SheetTable>
      </Scroll>
      <Line>
        <Button type="button" onClick={() => onRows([...rows, {}])}>
          {say('Add a line')}
        </Button>
        {rows.length > 1 && (
          <Button type="button" onClick={() => onRows(rows.slice(0, -1))}>
            {say('Remove the last')}
          </Button>
        )}
      </Line>
    </Block>
  );
}
