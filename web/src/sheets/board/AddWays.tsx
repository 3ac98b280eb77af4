import { Button, TextField } from '@mui/material';
import { useState, type FormEvent } from 'react';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { Form, Row } from '../../parts/layout';
import { say } from '../../words/words';
import { following } from './ways';

/** Adds as many ways at once as the board has. */
export function AddWays({ part }: { part: Part<Of<'Board'>> }) {
  const { ways } = part.value;
  const [asked, setAsked] = useState('');
  const text = asked || (ways.length ? '1' : '12');
  const fits = /^[1-9]\d?$/.test(text);
  const add = (e: FormEvent) => {
    e.preventDefault();
    if (!fits) return;
    part.save('ways', [...ways, ...following(ways, Number(text))]);
    setAsked('');
  };
  return (
    <Form onSubmit={add} className="no-print">
      <Row>
        <TextField
          label={say('How many ways to add')}
          value={text}
          disabled={part.frozen}
          error={!fits}
          helperText={!fits && say('Give a whole number from 1 to 99.')}
          onChange={(e) => setAsked(e.target.value)}
          onFocus={(e) => e.target.select()}
          slotProps={{ htmlInput: { name: 'ways', inputMode: 'numeric' } }}
          fullWidth={false}
          sx={{ width: 220 }}
        />
        <Button type="submit" disabled={part.frozen || !fits}>
          {say('Add ways')}
        </Button>
      </Row>
    </Form>
  );
}
