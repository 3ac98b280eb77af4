import { styled } from '@mui/material/styles';
import type { Of } from '../../api/client';
import { Quiet } from '../../parts/layout';
import { say } from '../../words/words';

const List = styled('ul')({ margin: '2px 0 0', paddingLeft: 18 });

/** What comes to which terminal of points that are connected alike. */
export function TerminalGuide({ wires, of }: { wires: Of<'Wires'>; of: string }) {
  return (
    <div data-terminals>
      <Quiet>
        {of ? say('By the marking of the device: {{tags}}', { tags: of }) : say('By the marking of the device, not by its place:')}
      </Quiet>
      <List>
        {wires.says.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </List>
    </div>
  );
}
