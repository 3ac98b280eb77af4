import { Button, Dialog } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useState } from 'react';
import type { Of } from '../api/client';
import type { Steps as What } from '../api/undo';
import { DialogTitle, Inside, List, Row } from '../parts/layout';
import { say } from '../words/words';

const Steps = styled('span')({ display: 'flex', gap: 6 });

const Short = styled('span')({ maxWidth: 220, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap', display: 'block' });

/** What can be taken back and brought back, in words; where somebody has changed some of it since, what can still be done. */
export function UndoBar({ steps }: { steps: What }) {
  const { undo, redo } = steps.can ?? {};
  return (
    <>
      <Steps className="wide" data-undo={undo?.title ?? ''} data-redo={redo?.title ?? ''}>
        {undo && (
          <Button onClick={steps.undo} title={undo.title}>
            <Short>{say('Undo: {{title}}', { title: undo.title })}</Short>
          </Button>
        )}
        {redo && (
          <Button onClick={steps.redo} title={redo.title}>
            <Short>{say('Redo: {{title}}', { title: redo.title })}</Short>
          </Button>
        )}
      </Steps>
      {steps.asks && undo && <Held undo={undo} before={steps.can?.before} steps={steps} />}
    </>
  );
}

/** Why the last command is not taken back whole, and what can be. */
function Held({ undo, before, steps }: { undo: Of<'Command'>; before?: Of<'Command'> | null; steps: What }) {
  const [open, setOpen] = useState(true);
  const close = () => {
    setOpen(false);
    steps.close();
  };
  const rest = undo.parts - undo.blocked.length;
  return (
    <Dialog open={open} onClose={close} aria-labelledby="held">
      <Inside most={520}>
        <DialogTitle id="held">{say('Not undone whole: {{title}}', { title: undo.title })}</DialogTitle>
        <List above="none" below="m">
          {undo.blocked.map((b) => (
            <li key={b.part}>{say('{{name}}: {{by}} has changed it since.', { name: b.name, by: b.by })}</li>
          ))}
        </List>
        <Row>
          {rest > 0 && (
            <Button variant="contained" onClick={() => steps.take({ command: undo.id, free: true })}>
              {say('Undo the rest of it')}
            </Button>
          )}
          {before && (
            <Button variant={rest > 0 ? 'outlined' : 'contained'} onClick={() => steps.take({ command: before.id, free: false })}>
              {say('Undo instead: {{title}}', { title: before.title })}
            </Button>
          )}
          <Button onClick={close}>{say('Leave it')}</Button>
        </Row>
      </Inside>
    </Dialog>
  );
}
