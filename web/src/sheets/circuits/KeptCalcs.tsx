import { say } from '../../words/words';
import { Button } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type Of } from '../../api/client';
import { usePart } from '../../api/part';
import { words } from '../../bench/label';
import { Values } from '../../bench/Values';
import { Block, Grow, Heading, Quiet, Row, Section, Wrong } from '../../parts/layout';
import { SaveLine } from '../../parts/SaveLine';

interface Props {
  job: Of<'JobView'>;
  j: Of<'Job'>;
}

/** Calculations that were put into this job, computed anew from what they were given. */
export function KeptCalcs({ job, j }: Props) {
  const part = usePart(job, 'bench', j.bench);
  const kept = part.value.kept;
  if (kept.length === 0)
    return (
      <p className="no-print">
        <Quiet>
          {say('A quick figure that belongs to this job? The')} <Link to={`/bench?job=${job.id}`}>{say('calculators')}</Link>{' '}
          {say('put it here, with what it was given.')}
        </Quiet>
      </p>
    );
  return (
    <Section>
      <Heading aside={<SaveLine part={part} />}>{say('Kept from the calculators')}</Heading>
      {kept.map((k, i) => (
        <Block key={`${k.calc} ${i}`} ruled pad="s" data-kept={k.calc}>
          <Row>
            <Link to={`/bench?calc=${j.practice}/${k.calc}&job=${job.id}&kept=${i}`}>{words(k.calc)}</Link>
            <Grow>{k.note}</Grow>
            <Button
              className="no-print"
              disabled={part.frozen}
              onClick={() =>
                part.save(
                  'kept',
                  kept.filter((_, n) => n !== i),
                )
              }
            >
              {say('Remove')}
            </Button>
          </Row>
          <Result practice={j.practice} kept={k} />
        </Block>
      ))}
    </Section>
  );
}

function Result({ practice, kept }: { practice: string; kept: Of<'KeptCalc'> }) {
  const answer = useQuery({
    queryKey: ['calc', practice, kept.calc, JSON.stringify(kept.input)],
    queryFn: () =>
      ask(
        api.POST('/api/calcs/{practice}/{name}', {
          params: { path: { practice, name: kept.calc } },
          body: kept.input as Record<string, never>,
        }),
      ),
    staleTime: Infinity,
    retry: false,
  });
  if (answer.error) return <Wrong>{answer.error.message}</Wrong>;
  return answer.data ? <Values of={answer.data.values} names={answer.data.keys} /> : <p>{say('Computing …')}</p>;
}
