import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import { figure } from '../parts/figure';
import { Bad, Quiet } from '../parts/layout';
import { words, type KeyNames } from './label';

const Pairs = styled('dl')({ display: 'grid', gridTemplateColumns: 'minmax(120px, max-content) 1fr', gap: '2px 14px', margin: 0 });
const Pair = styled('div')({ display: 'contents' });
const Term = styled('dt')({ color: 'var(--ink2)' });
const Answer = styled('dd')({ margin: 0 });
const Good = styled('b')({ color: 'var(--verdigris)' });

/** The outputs of a calculation, by key, each in its unit. */
export function Values({ of, names, order }: { of: Record<string, unknown>; names: KeyNames; order?: string[] }) {
  const keys = order ? [...order.filter((k) => k in of), ...Object.keys(of).filter((k) => !order.includes(k))] : Object.keys(of);
  return (
    <Pairs aria-label={say('Result')}>
      {keys.map((key) => {
        const name = names[key];
        return (
          <Pair key={key}>
            <Term>{name?.label ?? words(key)}</Term>
            <Answer data-out={key}>
              <Value of={of[key]} unit={name?.unit ?? ''} names={names} />
            </Answer>
          </Pair>
        );
      })}
    </Pairs>
  );
}

function Value({ of: v, unit, names }: { of: unknown; unit: string; names: KeyNames }) {
  if (v === true) return <Good>{say('yes')}</Good>;
  if (v === false) return <Bad>{say('no')}</Bad>;
  if (v === null) return <Quiet>{say('none')}</Quiet>;
  if (typeof v === 'number') return <b>{figure(v, unit)}</b>;
  if (typeof v === 'string') return <b>{words(v)}</b>;
  if (Array.isArray(v)) {
    if (v.length === 0) return <Quiet>{say('none')}</Quiet>;
    return (
      <>
        {v.map((x: unknown, i) => (
          <div key={i}>
            <Value of={x} unit={unit} names={names} />
          </div>
        ))}
      </>
    );
  }
  return <Values of={v as Record<string, unknown>} names={names} />;
}
