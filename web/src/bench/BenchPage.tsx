import { styled } from '@mui/material/styles';
import { say } from '../words/words';
import { Button, InputBase } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask, type Of } from '../api/client';
import { readJob } from '../api/job';
import { Shell } from '../frame/Shell';
import { figure } from '../parts/figure';
import { Bare, Block, Heading, Item, P, Page, Quiet, Section, Title, Wrong } from '../parts/layout';
import { CalcForm } from './CalcForm';
import { filledOf, inputOf, type Filled } from './input';
import { KeepInJob } from './KeepInJob';
import { words } from './label';
import { Values } from './Values';

const CalcLink = styled(Link)({ display: 'block', padding: '10px 0', minHeight: 44, color: 'inherit', textDecoration: 'none' });
const Found = styled('b')({ color: 'var(--copper)' });
const Try = styled(Button)({ marginTop: 10 });
const Anchor = styled('div')({ scrollMarginTop: 60 });
const Figures = styled('dl')({ margin: 0 });
const Term = styled('dt')({ display: 'inline' });
const Value = styled('dd')({ display: 'inline', margin: 0 });

const idOf = (c: Of<'Calculation'>) => `${c.practice}/${c.name}`;

/** Quick calculations without a job, with their working. For the stairs and the wholesaler's counter, on a phone. */
export function BenchPage() {
  const calcs = useQuery({ queryKey: ['calcs'], queryFn: () => ask(api.GET('/api/calcs')), staleTime: Infinity });
  const [search, setSearch] = useSearchParams();
  const [q, setQ] = useState('');
  const job = search.get('job');
  // The job from which the bench was opened stays the one to put a figure into.
  const toCalc = useCallback((calc: string) => new URLSearchParams(job ? { calc, job } : { calc }).toString(), [job]);
  const chosen = calcs.data?.find((c) => idOf(c) === search.get('calc'));
  const found = (calcs.data ?? []).filter((c) =>
    `${idOf(c)} ${words(c.name)} ${c.title} ${c.about}`.toLowerCase().includes(q.trim().toLowerCase()),
  );
  const actions = useMemo(
    () => (calcs.data ?? []).map((c) => ({ name: c.title, hint: words(c.name), run: () => setSearch(toCalc(idOf(c))) })),
    [calcs.data, setSearch, toCalc],
  );
  return (
    <Shell crumb={say('Calculators')} actions={actions}>
      <Page most={1100}>
        <Title>{say('Calculators')}</Title>
        {calcs.error && <Wrong>{calcs.error.message}</Wrong>}
        {calcs.isPending && <p>{say('Opening …')}</p>}
        {chosen ? (
          <>
            <p>
              <Link to={job ? `/bench?job=${job}` : '/bench'}>{say('All calculations')}</Link>
            </p>
            <Opened key={search.toString()} calc={chosen} jobId={search.get('job') ?? ''} kept={search.get('kept')} />
          </>
        ) : (
          <>
            <InputBase
              value={q}
              onChange={(e) => setQ(e.target.value)}
              placeholder={say('What do you want to know?')}
              inputProps={{ 'aria-label': say('Find a calculation') }}
              sx={{ border: '1px solid var(--rule2)', background: 'var(--sheet)', px: 1.2, width: 360, maxWidth: '100%' }}
            />
            <Bare aria-label={say('Calculations')}>
              {found.map((c) => (
                <Item key={idOf(c)} ruled>
                  <CalcLink to={`/bench?${toCalc(idOf(c))}`}>
                    <Found>{c.title}</Found>
                    <br />
                    <Quiet>
                      {c.about} · {words(c.name)} · {c.family}
                    </Quiet>
                  </CalcLink>
                </Item>
              ))}
            </Bare>
            {calcs.data && found.length === 0 && <p>{say('No calculation speaks of “{{q}}”.', { q })}</p>}
          </>
        )}
      </Page>
    </Shell>
  );
}

/** A calculation, filled with what a job kept of it when one is named. */
function Opened({ calc, jobId, kept }: { calc: Of<'Calculation'>; jobId: string; kept: string | null }) {
  const job = useQuery({
    queryKey: ['job', jobId],
    queryFn: () => readJob(jobId),
    enabled: jobId !== '',
  });
  if (jobId && job.isPending) return <p>{say('Opening …')}</p>;
  if (job.error) return <Wrong>{job.error.message}</Wrong>;
  const at = kept === null ? -1 : Number(kept);
  const of = job.data?.view.job?.bench.kept[at];
  return (
    <Calc
      calc={calc}
      jobId={jobId}
      at={of ? at : -1}
      start={of && of.calc === calc.name ? filledOf(calc.in, of.input) : {}}
      note={of?.note ?? ''}
    />
  );
}

interface CalcProps {
  calc: Of<'Calculation'>;
  start: Filled;
  jobId: string;
  at: number;
  note: string;
}

function Calc({ calc, start, jobId, at, note }: CalcProps) {
  const [filled, setFilled] = useState<Filled>(start);
  const [answer, setAnswer] = useState<Of<'Calculated'>>();
  const [wrong, setWrong] = useState('');
  const [busy, setBusy] = useState(false);
  const result = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (answer) result.current?.scrollIntoView({ block: 'nearest' });
  }, [answer]);
  const [input, setInput] = useState<Record<string, unknown>>({}); // of the answer that is shown
  const run = async () => {
    setBusy(true);
    try {
      const input = inputOf(calc.in, filled);
      setInput(input);
      setAnswer(
        await ask(
          api.POST('/api/calcs/{practice}/{name}', {
            params: { path: { practice: calc.practice, name: calc.name } },
            body: input as Record<string, never>,
          }),
        ),
      );
      setWrong('');
    } catch (e) {
      setAnswer(undefined);
      setWrong(e instanceof Error ? e.message : String(e));
    }
    setBusy(false);
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void run();
      }}
    >
      <Section>
        <Heading aside={<Quiet>{words(calc.name)}</Quiet>}>{calc.title}</Heading>
        <P above="none" below="s">
          <Quiet>{calc.about}</Quiet>
        </P>
        <CalcForm fields={calc.in} filled={filled} onFill={setFilled} />
        <Try type="submit" variant="contained" disabled={busy}>
          {say('Calculate')}
        </Try>
        {wrong && <Wrong>{wrong}</Wrong>}
      </Section>
      {answer && (
        <Anchor ref={result}>
          <Section>
            <Heading>{say('Result')}</Heading>
            <Values of={answer.values} names={answer.keys} order={calc.out} />
          </Section>
          {answer.steps.length > 0 && (
            <Section>
              <Heading>{say('Working')}</Heading>
              <Figures aria-label={say('Steps')}>
                {answer.steps.map((s, i) => (
                  <Block key={i} ruled pad="xs">
                    <Term>{s.symbol} </Term>
                    <Value>
                      <b>{figure(s.value, s.unit)}</b>
                      <br />
                      <Quiet>
                        {s.formula}
                        {s.with && `: ${s.with}`}
                        {s.source && ` · ${s.source}`}
                      </Quiet>
                    </Value>
                  </Block>
                ))}
              </Figures>
            </Section>
          )}
          <KeepInJob calc={calc} input={input} jobId={jobId} at={at} note={note} />
          <p>
            <Quiet>
              {say(
                'Figures are restated from the standards they name: verify against the edition in force. Local code, ' +
                  'the network operator’s rules and the licensed signatory decide.',
              )}
            </Quiet>
          </p>
        </Anchor>
      )}
    </form>
  );
}
