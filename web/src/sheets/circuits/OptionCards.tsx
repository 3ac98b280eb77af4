import { styled } from '@mui/material/styles';
import { say } from '../../words/words';
import type { Of } from '../../api/client';
import type { Part } from '../../api/part';
import { get } from '../../api/paths';
import { Quiet } from '../../parts/layout';
import { Mark } from '../../parts/Mark';

const Cards = styled('div')({ display: 'grid', gap: 6, gridTemplateColumns: 'repeat(auto-fit, minmax(min(100%, 420px), 1fr))' });
const Pick = styled('input')({ width: 18, height: 18 });
const Says = styled('span')({ fontSize: '.92em' });

interface Props {
  part: Part;
  path: string;
  label: string;
  options: Of<'Option'>[];
}

/** Ways to decide, each with its verdict, reason and condition; one is chosen. */
export function OptionCards({ part, path, label, options }: Props) {
  const chosen = get(part.value, path);
  return (
    <Cards role="radiogroup" aria-label={label}>
      {options.map((o) => (
        <label
          key={o.id}
          style={{
            border: `1px solid ${o.chosen ? 'var(--copper)' : 'var(--rule2)'}`,
            borderLeft: `5px solid ${o.chosen ? 'var(--copper)' : 'var(--rule2)'}`,
            padding: '8px 10px',
            display: 'grid',
            gridTemplateColumns: '24px 1fr',
            gap: 6,
            cursor: 'pointer',
          }}
        >
          <Pick
            type="radio"
            name={`${part.name}-${path}`}
            value={o.id}
            checked={chosen === o.id}
            disabled={part.frozen}
            onChange={() => part.save(path, o.id)}
          />
          <span>
            <b>{o.title}</b>
            <br />
            <Mark verdict={o.verdict} size={12} /> <Quiet>{o.summary}</Quiet>
            <br />
            <Says>{o.reason}</Says>
            <br />
            <Quiet>{say('Condition: {{condition}}', { condition: o.condition })}</Quiet>
          </span>
        </label>
      ))}
    </Cards>
  );
}
