import { say } from '../../words/words';
import { Button } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, type Of } from '../../api/client';
import { useOutbox } from '../../api/outbox';
import { own } from '../../api/own';
import { Key, P, Quiet, Row, Wrong } from '../../parts/layout';

const Label = styled('label')({ fontWeight: 600 });
const Reads = styled('div')({ minHeight: '1.5em', margin: '2px 0' });

const Line = styled('textarea')({
  width: '100%',
  font: 'inherit',
  fontSize: '1.08em',
  color: 'var(--ink)',
  background: 'var(--sheet)',
  border: '1px solid var(--ink)',
  padding: '9px 10px',
  minHeight: 52,
  resize: 'vertical',
});

export const Read = styled('span')({
  whiteSpace: 'pre-wrap',
  '& .unread': { textDecoration: 'underline wavy var(--brick)', color: 'var(--brick)' },
  '& .guess': { textDecoration: 'underline dotted var(--ochre)' },
  '& .room, & .floor': { fontWeight: 700 },
  '& .kind': { color: 'var(--verdigris)', fontWeight: 600 },
  '& .count, & .height, & .figure': { fontWeight: 600 },
  '& .note, & .place, & .remark, & .filler': { color: 'var(--ink2)' },
});

/** A line as it was read, each run by what it was taken for. */
export function ReadLine({ line }: { line: Of<'ReadLine'> }) {
  return (
    <Read>
      {line.spans.map((s, i) => (
        <span key={i} className={s.class} title={s.summary || undefined}>
          {s.text}
        </span>
      ))}
    </Read>
  );
}

/** Reads shorthand a moment after the typing stops; the server knows the grammar. */
export function useReading(practice: string, text: string, floor: string) {
  const [slow, setSlow] = useState(text);
  useEffect(() => {
    const timer = window.setTimeout(() => setSlow(text), 180);
    return () => window.clearTimeout(timer);
  }, [text]);
  return useQuery({
    queryKey: ['shorthand', practice, slow, floor],
    queryFn: () => ask(api.POST('/api/shorthand', { body: { practice, text: slow, floor } })),
    enabled: slow.trim() !== '',
    staleTime: Infinity,
    retry: false,
    placeholderData: (old) => old,
  });
}

interface Props {
  job: Of<'JobView'>;
  room?: string; // id of the room that a line without one goes to
  roomName?: string;
  floor: string;
}

const slot = (job: string) => own(`typed:${job}`);

/** One line a room, typed as fast as a person walks: read while it is typed, taken with Enter, kept until the server has it. */
export function ShorthandEntry({ job, room, roomName, floor }: Props) {
  const [text, setText] = useState(() => localStorage.getItem(slot(job.id)) ?? '');
  const outbox = useOutbox(job.id);
  const practice = job.view.job?.practice ?? '';
  const reading = useReading(practice, text, floor);
  const box = useRef<HTMLTextAreaElement>(null);
  const type = (t: string) => {
    setText(t);
    if (t) localStorage.setItem(slot(job.id), t);
    else localStorage.removeItem(slot(job.id));
  };
  const shift = useRef(false);
  const take = (line = text) => {
    if (!line.trim()) return;
    outbox.send(line, room);
    type('');
    box.current?.focus();
  };
  const fresh = text.trim() !== '' && !reading.isPlaceholderData && !reading.error ? (reading.data ?? []) : [];
  const misread = fresh.flatMap((l) => l.misread);
  const held = outbox.waiting.filter((w) => w.refused);
  const waits = outbox.waiting.length - held.length;
  return (
    <div>
      <Label htmlFor="shorthand">{say('Add rooms: one line a room')}</Label>
      <Line
        id="shorthand"
        ref={box}
        value={text}
        rows={2}
        disabled={job.view.frozen}
        autoComplete="off"
        autoCapitalize="none"
        spellCheck={false}
        placeholder={say('pantry g: 2 double socket @1100, two way light, fridge')}
        onChange={(e) => {
          // The keys of a phone may write the line break without telling the key.
          const broke = (e.nativeEvent as InputEvent).inputType === 'insertLineBreak' && !shift.current;
          const value = e.target.value;
          if (broke && value.trim()) take(value.replace(/\n$/, ''));
          else type(value.trim() ? value : '');
        }}
        onKeyDown={(e) => {
          shift.current = e.shiftKey;
          if (e.key === 'Enter' && !e.shiftKey) {
            e.preventDefault();
            take();
          }
        }}
      />
      {/* The button stands above what is read, so that it does not move under the thumb. */}
      <Row around="xs">
        <Button variant="contained" disabled={job.view.frozen || !text.trim()} onClick={() => take()}>
          {say('Add the line')}
        </Button>
        <Quiet>
          <Key>{say('Enter')}</Key> {say('adds it,')} <Key>{say('Shift Enter')}</Key>{' '}
          {say('adds a line{{x}}', { x: roomName ? say('; a line without a room goes to {{roomName}}.', { roomName }) : '.' })}
        </Quiet>
      </Row>
      <Reads aria-live="polite" data-reading>
        {fresh.map((l, i) => (
          <div key={i}>
            <ReadLine line={l} />
          </div>
        ))}
        {reading.error && text.trim() !== '' && <Quiet>{say('No connection: it is read when it is back. Enter keeps the line.')}</Quiet>}
      </Reads>
      {misread.map((m, i) => (
        <Row key={i} data-misread={m.text} around="xs" gap="s">
          <span style={{ color: m.kept ? 'var(--ink2)' : 'var(--brick)' }}>
            “{m.text}” {m.summary}.
          </span>
          {m.suggest && !m.taken && (
            <Button onClick={() => type(text.replace(m.text, m.suggest))}>{say('Read it as “{{suggest}}”', { suggest: m.suggest })}</Button>
          )}
        </Row>
      ))}
      {waits > 0 && (
        <P role="status" data-waiting={waits} around="xs">
          {say('{{x}} here until Arvelt can be reached.', {
            x: waits === 1 ? say('1 line waits') : say('{{waits}} lines wait', { waits }),
          })}
        </P>
      )}
      {held.map((w) => (
        <Wrong key={w.key}>
          {say('“{{text}}” was not added:', { text: w.text })} {w.refused}{' '}
          <Button
            onClick={() => {
              type(text ? `${text}\n${w.text}` : w.text);
              outbox.drop(w.key);
            }}
          >
            {say('Edit it')}
          </Button>
        </Wrong>
      ))}
    </div>
  );
}
