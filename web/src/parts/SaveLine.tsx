import { styled } from '@mui/material/styles';
import { moment, say } from '../words/words';
import { Button } from '@mui/material';
import { differences } from '../api/paths';
import type { Part } from '../api/part';

import { textOf } from '../api/paths';
import { Quiet, SheetTable, Wrong } from './layout';

const Buttons = styled('span')({ display: 'flex', gap: 8, marginTop: 8 });

const text = (v: unknown) => (v === null || v === undefined || v === '' ? 'nothing' : textOf(v) || JSON.stringify(v));

/** One quiet line on how a part stands: saved, being saved, kept here, or changed by somebody else meanwhile. */
export function SaveLine({ part }: { part: Part }) {
  if (part.status === 'conflict' && part.theirs)
    return (
      <Wrong>
        <b>{part.theirs.by}</b>{' '}
        {say('saved this at {{at}}, after you read it. Nothing is lost; both are shown.', { at: moment(part.theirs.at) })}
        <SheetTable aria-label={say('Both versions')}>
          <thead>
            <tr>
              <th scope="col">{say('Field')}</th>
              <th scope="col">{say('Yours')}</th>
              <th scope="col">{say('Theirs')}</th>
            </tr>
          </thead>
          <tbody>
            {differences(part.value, part.theirs.body).map((d) => (
              <tr key={d.path}>
                <td>{d.path}</td>
                <td>{text(d.mine)}</td>
                <td>{text(d.theirs)}</td>
              </tr>
            ))}
          </tbody>
        </SheetTable>
        <Buttons>
          <Button variant="contained" onClick={part.keepMine}>
            {say('Keep mine')}
          </Button>
          <Button onClick={part.takeTheirs}>{say('Keep theirs')}</Button>
        </Buttons>
      </Wrong>
    );
  if (part.status === 'failed')
    return (
      <Wrong>
        {say('Not saved: {{summary}} It is tried again by itself.', { summary: part.summary })}{' '}
        <Button onClick={part.commit}>{say('Try now')}</Button>
      </Wrong>
    );
  if (part.status === 'refused')
    return (
      <Wrong>
        {say('Not saved: {{x}} ', {
          x:
            Object.values(part.errors).length > 0
              ? Object.entries(part.errors)
                  .map(([f, e]) => `${f} ${e}`)
                  .join(' ')
              : part.summary,
        })}
        <Button onClick={part.takeTheirs}>{say('Put back what was saved')}</Button>
      </Wrong>
    );
  return (
    <Quiet role="status" data-status={part.status}>
      {part.status === 'saved' ? '' : part.status === 'saving' ? 'Saving …' : say('Kept here, not yet saved.')}
      {part.status === 'draft' && (
        <Button size="small" sx={{ ml: 1 }} onClick={part.commit}>
          {say('Save')}
        </Button>
      )}
    </Quiet>
  );
}
