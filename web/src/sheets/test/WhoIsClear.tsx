import { TextField } from '@mui/material';
import { styled } from '@mui/material/styles';
import type { Of } from '../../api/client';
import { Quiet, SubHead } from '../../parts/layout';
import { Mark } from '../../parts/Mark';
import { moment, say } from '../../words/words';

const Two = styled('div')({ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(180px, 1fr))', gap: 8, margin: '4px 0 8px' });

export type Cleared = Of<'Cleared'>;

interface WhoIsClearProps {
  people: Of<'OnSite'>[];
  clear: Record<string, Cleared>;
  onClear: (c: Record<string, Cleared>) => void;
}

/** Whoever may be on site: whose device has reported since this was asked for, and of the others how it is known that they are clear. */
export function WhoIsClear({ people, clear, onClear }: WhoIsClearProps) {
  if (people.length === 0) return null;
  const set = (name: string, field: 'how' | 'by', text: string) =>
    onClear({ ...clear, [name]: { ...(clear[name] ?? { person: name, how: '', by: '' }), [field]: text } });
  return (
    <div data-on-site={people.length}>
      <SubHead>{say('Who may be on site')}</SubHead>
      {people.map((p) => (
        <div key={p.id} data-person={p.name} data-reported={p.reported}>
          <Mark verdict={p.reported ? 'pass' : 'caution'} /> <b>{p.name}</b>{' '}
          {p.reported ? (
            <Quiet>{say('their device has reported, nothing waits to be sent')}</Quiet>
          ) : (
            <>
              <Quiet>
                {p.seen ? say('not seen since {{seen}}: locks of theirs may not be known here', { seen: moment(p.seen) }) : say('not seen')}
              </Quiet>
              <Two>
                <TextField
                  label={say('Clear: how it is known')}
                  value={clear[p.name]?.how ?? ''}
                  onChange={(e) => set(p.name, 'how', e.target.value)}
                  slotProps={{ htmlInput: { name: `how-${p.name}`, maxLength: 400 } }}
                />
                <TextField
                  label={say('and by whom')}
                  value={clear[p.name]?.by ?? ''}
                  onChange={(e) => set(p.name, 'by', e.target.value)}
                  slotProps={{ htmlInput: { name: `by-${p.name}`, maxLength: 400 } }}
                />
              </Two>
            </>
          )}
        </div>
      ))}
    </div>
  );
}
