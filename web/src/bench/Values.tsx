import { figure } from '../parts/figure';
import { Quiet } from '../parts/layout';
import { labelOf, words } from './label';

/** The outputs of a calculation, by key, each in its unit. */
export function Values({ of, order }: { of: Record<string, unknown>; order?: string[] }) {
  const keys = order ? [...order.filter((k) => k in of), ...Object.keys(of).filter((k) => !order.includes(k))] : Object.keys(of);
  return (
    <dl style={{ display: 'grid', gridTemplateColumns: 'minmax(120px, max-content) 1fr', gap: '2px 14px', margin: 0 }} aria-label="Result">
      {keys.map((key) => {
        const { text, unit } = labelOf(key);
        return (
          <div key={key} style={{ display: 'contents' }}>
            <dt style={{ color: 'var(--ink2)' }}>{text}</dt>
            <dd style={{ margin: 0 }} data-out={key}>
              <Value of={of[key]} unit={unit} />
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

function Value({ of: v, unit }: { of: unknown; unit: string }) {
  if (v === true) return <b style={{ color: 'var(--verdigris)' }}>yes</b>;
  if (v === false) return <b style={{ color: 'var(--brick)' }}>no</b>;
  if (v === null) return <Quiet>none</Quiet>;
  if (typeof v === 'number') return <b>{figure(v, unit)}</b>;
  if (typeof v === 'string') return <b>{words(v)}</b>;
  if (Array.isArray(v)) {
    if (v.length === 0) return <Quiet>none</Quiet>;
    return (
      <>
        {v.map((x, i) => (
          <div key={i}>
            <Value of={x} unit={unit} />
          </div>
        ))}
      </>
    );
  }
  return <Values of={v as Record<string, unknown>} />;
}
