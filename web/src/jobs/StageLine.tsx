const stages = ['survey', 'design', 'order', 'first fix', 'second fix', 'test', 'handover', 'aftercare'];

/** Where a job stands among its eight stages: passed, in work, to come. */
export function StageLine({ stage }: { stage: string }) {
  const at = stages.indexOf(stage);
  return (
    <span style={{ display: 'inline-block', whiteSpace: 'nowrap' }}>
      {stage}
      <svg
        width="92"
        height="10"
        viewBox="0 0 92 10"
        style={{ display: 'block' }}
        role="img"
        aria-label={`stage ${at + 1} of ${stages.length}`}
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
      </svg>
    </span>
  );
}
