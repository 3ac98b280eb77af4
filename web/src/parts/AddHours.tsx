import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { say } from '../words/words';
import { parseFigure } from './figure';
import { Row } from './layout';

/** Person-hours that are added to a step. */
export function AddHours({ task, disabled, onAdd }: { task: string; disabled: boolean; onAdd: (v: number) => void }) {
  const [text, setText] = useState('');
  const v = parseFigure(text);
  const ok = typeof v === 'number' && v > 0 && v <= 200;
  const add = () => {
    if (!ok) return;
    onAdd(v);
    setText('');
  };
  return (
    <Row gap="xs">
      <TextField
        value={text}
        sx={{ width: 90 }}
        error={text !== '' && !ok}
        disabled={disabled}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && add()}
        slotProps={{ htmlInput: { name: `hours-${task}`, inputMode: 'decimal', 'aria-label': say('Person-hours to add') } }}
      />
      <Button disabled={disabled || !ok} onClick={add}>
        {say('Add')}
      </Button>
    </Row>
  );
}
