import { say } from '../../words/words';
import { Button } from '@mui/material';
import type { Of } from '../../api/client';
import { useFrame } from '../../frame/Shell';
import { figure } from '../../parts/figure';
import { Bare, Heading, Item, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { Mark } from '../../parts/Mark';

interface Props {
  result?: Of<'WhatIf'>;
  error: Error | null;
  changed: boolean;
  onKeep: () => void;
  onDrop: () => void;
}

/** What a change that is only tried would bring, check by check, before it is kept. */
export function Consequences({ result, error, changed, onKeep, onDrop }: Props) {
  const { me } = useFrame();
  const extra = result?.extra;
  return (
    <Section data-trial>
      <Heading aside={<Quiet>{say('nothing is saved')}</Quiet>}>{say('Trying a change')}</Heading>
      {!changed && <p>{say('Change anything below: every consequence in the whole job shows here, and the job stays as it is.')}</p>}
      {error && <Wrong>{error.message}</Wrong>}
      {changed && result && (
        <>
          {result.differences.length === 0 && <p>{say('No check of the job changes.')}</p>}
          <Bare aria-label={say('Consequences')}>
            {result.differences.map((d, i) => (
              <Item key={i} data-difference={d.check} ruled pad="xs">
                {d.was ? <Mark verdict={d.was} /> : <Quiet>{say('new')}</Quiet>} →{' '}
                {d.now ? <Mark verdict={d.now} /> : <Quiet>{say('falls away')}</Quiet>}{' '}
                <b>{d.circuit ? `${d.circuit}: ${d.check}` : d.check}</b> {d.nowSays || d.wasSays}
                {d.wasSays && d.nowSays && (
                  <>
                    <br />
                    <Quiet>{say('before: {{wasSays}}', { wasSays: d.wasSays })}</Quiet>
                  </>
                )}
              </Item>
            ))}
          </Bare>
          <p>
            {extra === null || extra === undefined
              ? say('What it does to the cost of material is open: a line is not in the price list.')
              : extra === 0
                ? say('The material costs the same.')
                : say('The material costs {{extra}} {{x}}.', {
                    extra: figure(Math.abs(extra), me.currency),
                    x: extra > 0 ? 'more' : 'less',
                  })}
          </p>
        </>
      )}
      <Row>
        <Button variant="contained" disabled={!changed || !!error} onClick={onKeep}>
          {say('Save the change')}
        </Button>
        <Button onClick={onDrop}>{changed ? say('Discard it') : say('Stop trying')}</Button>
      </Row>
    </Section>
  );
}
