import { styled } from '@mui/material/styles';
import { msg, say } from '../words/words';

const Line = styled('span')({ display: 'inline-block', whiteSpace: 'nowrap' });
const Stages = styled('svg')({ display: 'block' });
const stages = [
  msg('survey'),
  msg('design'),
  msg('order'),
  msg('first fix'),
  msg('second fix'),
  msg('test'),
  msg('handover'),
  msg('aftercare'),
];

/** Where a job stands among its eight stages: passed, in work, to come. */
export function StageLine({ stage }: { stage: string }) {
  const at = stages.indexOf(stage);
  return (
    <Line>
      {say(stage)}
      <Stages
        width="92"
        height="10"
        viewBox="0 0 92 10"
        role="img"
        aria-label={say('stage {{at}} of {{stages}}', { at: at + 1, stages: stages.length })}
      >
        <line x1="4" x2="88" y1="5" y2="5" stroke="var(--rule2)" strokeWidth="1.5" />
        <line x1="4" x2={4 + at * 12} y1="5" y2="5" stroke="var(--verdigris)" strokeWidth="2.5" />
        {stages.map((s, i) => (
          <circle
            key={s}
            cx={4 + i * 12}
            cy="5"
            r={i === at ? 4 : 2.6}
            fill={i < at ? 'var(--verdigris)' : i === at ? 'var(--copper)' : 'var(--sheet)'}
            stroke={i > at ? 'var(--rule2)' : 'none'}
          />
        ))}
      </Stages>
    </Line>
  );
}
