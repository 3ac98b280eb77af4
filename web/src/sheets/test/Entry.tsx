import { say } from '../../words/words';
import { Button, Checkbox, Dialog, FormControlLabel, TextField } from '@mui/material';
import { styled } from '@mui/material/styles';
import { useState } from 'react';
import type { Of } from '../../api/client';
import { useCompany, useTerms } from '../../api/job';
import { useRecord } from '../../api/records';
import { parseFigure } from '../../parts/figure';
import { Caution, P, Quiet, Wrong } from '../../parts/layout';
import { Again, PointChoice } from './Again';
import { Clamp, useClamp } from './Clamp';
import { Pad, Pair } from './keys';

const Box = styled('section')({ border: '1px solid var(--ink)', padding: 12, background: 'var(--sheet)' });
const Title = styled('h2')({ margin: 0, fontSize: '1.2em' });
const Display = styled('label')({
  display: 'flex',
  alignItems: 'baseline',
  gap: 8,
  borderBottom: '3px solid var(--copper)',
  '& input': {
    flex: 1,
    minWidth: 0,
    font: 'inherit',
    fontSize: '2.4em',
    fontWeight: 600,
    textAlign: 'right',
    border: 0,
    background: 'transparent',
    color: 'var(--ink)',
    padding: '2px 0',
  },
  '& span': { fontSize: '1.6em', color: 'var(--ink2)' },
});
const Beside = styled('div')({ display: 'grid', gap: 10, marginTop: 10, '&[data-two]': { gridTemplateColumns: '1fr 110px' } });
const Reason = styled('div')({ padding: 18, display: 'grid', gap: 12, minWidth: 280 });

const slot = 'arvelt:instrument';

/** Whether a test was read at some of its points and not at all of them. */
export const partlyRead = (row: Of<'TestRow'>) => row.points.some((p) => p.reading) && row.points.some((p) => !p.reading);

interface Props {
  job: Of<'JobView'>;
  row: Of<'TestRow'>;
  circuit?: string; // its name
  keeps?: boolean; // earlier ones wait for a connection: what closes this one may be among them
  onRecorded: () => void;
}

/** One reading on big keys. The model's figure is not shown before it is recorded, so that it cannot lead the reader. */
export function Entry({ job, row, circuit, keeps, onRecorded }: Props) {
  const record = useRecord(job.id);
  const company = useCompany().data;
  const words = useTerms().data?.patterns ?? [];
  const [text, setText] = useState('');
  const [temp, setTemp] = useState('');
  const [instrument, setInstrument] = useState(() => localStorage.getItem(slot) ?? '');
  const [why, setWhy] = useState<string>();
  const [replaces, setReplaces] = useState(false);
  const [place, setPlace] = useState('');
  // Once one point is named, all are read: the next that was not is at hand.
  const [box, setBox] = useState(() => (partlyRead(row) && row.points.find((p) => !p.reading)?.id) || '');
  const [reason, setReason] = useState('');
  const [noTrip, setNoTrip] = useState(false);
  const clamp = useClamp();
  const [testV, setTestV] = useState(() => row.testV[0] ?? 0);
  const known = company?.instruments.map((i) => ({ name: `${i.name} ${i.serial}`.trim(), calibrated: i.calibrated })) ?? [];
  const chosen = known.find((i) => i.name === instrument);
  const value = parseFigure(text);
  const degrees = parseFigure(temp);
  const send = (r: Partial<Of<'NewReading'>>) =>
    record.mutate(
      {
        kind: 'reading',
        subject: row.id,
        circuit: row.circuit,
        unit: row.unit,
        ...(row.parting.length > 0 && clamp.read),
        ...(row.points.length > 0 && { box: replaces ? (row.reading?.box ?? '') : box }),
        ...(row.reading && replaces ? { supersedes: row.reading.id, note: reason } : { place }),
        ...r,
      },
      {
        onSuccess: () => {
          clamp.clear();
          onRecorded();
        },
      },
    );
  const withTool = {
    instrument,
    calibrated: chosen?.calibrated ?? '',
    tempC: row.asksTemp ? (degrees ?? null) : null,
    testV,
    ...(row.asksNoTrip && { noTrip }),
  };
  const recordValue = () => value !== null && value !== undefined && send({ value, ...withTool });
  const press = (k: string) => setText((t) => (k === '⌫' ? t.slice(0, -1) : k === '.' && t.includes('.') ? t : t + k));
  const closed = (!!row.closed && !keeps) || job.view.frozen || (replaces && !reason.trim());
  return (
    <Box aria-label={say('Reading')} data-entry={`${row.circuit}/${row.id}`}>
      <Title>
        {circuit && <>{circuit}: </>}
        {row.title}
      </Title>
      <P above="none" below="xs" quiet>
        {row.where}
      </P>
      <Caution>{row.caution}</Caution>
      {row.closed && !keeps && <Wrong>{row.closed}</Wrong>}
      {record.error && <Wrong>{record.error.message}</Wrong>}
      {row.parting.length > 0 && <Clamp names={row.parting} typed={clamp} />}
      {row.points.length > 0 && !replaces && <PointChoice points={row.points} value={box} onChange={setBox} />}
      {row.reading && !row.reading.couldNot && (
        <Again
          points={row.points.length > 0}
          replaces={replaces}
          onReplaces={setReplaces}
          place={place}
          onPlace={setPlace}
          reason={reason}
          onReason={setReason}
        />
      )}
      {row.patterns.length > 0 ? (
        <Pair role="group" aria-label={say('What it showed')}>
          {row.patterns.map((p) => (
            <button key={p} type="button" className="small" disabled={closed || record.isPending} onClick={() => send({ answer: p })}>
              {words.find((w) => w.id === p)?.name ?? p}
            </button>
          ))}
        </Pair>
      ) : row.yesNo ? (
        <Pair>
          <button type="button" disabled={closed || record.isPending} onClick={() => send({ passed: true })}>
            {say('Yes, correct')}
          </button>
          <button type="button" disabled={closed || record.isPending} onClick={() => send({ passed: false })}>
            {say('No')}
          </button>
        </Pair>
      ) : (
        <>
          <Display>
            <input
              name="reading"
              aria-label={say('Reading in {{unit}}', { unit: row.unit })}
              value={text}
              disabled={closed}
              inputMode="none"
              autoComplete="off"
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => e.key === 'Enter' && recordValue()}
            />
            <span>{row.unit}</span>
          </Display>
          {value === undefined && <Quiet>{say('“{{text}}” is not a number.', { text })}</Quiet>}
          <Beside data-two={row.asksTemp || row.testV.length > 1 || undefined}>
            <TextField
              select
              label={`Instrument${chosen?.calibrated ? say(', calibrated to {{calibrated}}', { calibrated: chosen.calibrated }) : ''}`}
              value={instrument}
              onChange={(e) => {
                setInstrument(e.target.value);
                localStorage.setItem(slot, e.target.value);
              }}
              slotProps={{ select: { native: true }, htmlInput: { name: 'instrument' } }}
            >
              <option value="">{say('choose the instrument')}</option>
              {known.map((i) => (
                <option key={i.name} value={i.name}>
                  {i.name}
                </option>
              ))}
            </TextField>
            {row.testV.length > 1 && (
              <TextField
                select
                label={say('Test voltage')}
                value={testV}
                onChange={(e) => setTestV(Number(e.target.value))}
                slotProps={{ select: { native: true }, htmlInput: { name: 'testV' } }}
              >
                {row.testV.map((v) => (
                  <option key={v} value={v}>
                    {v} V
                  </option>
                ))}
              </TextField>
            )}
            {row.asksTemp && (
              <TextField
                label={say('At °C')}
                value={temp}
                onChange={(e) => setTemp(e.target.value)}
                error={degrees === undefined}
                slotProps={{ htmlInput: { inputMode: 'decimal' } }}
              />
            )}
          </Beside>
          {row.asksNoTrip && (
            <FormControlLabel
              control={<Checkbox name="noTrip" checked={noTrip} onChange={(e) => setNoTrip(e.target.checked)} />}
              label={say('Read with a test that does not trip the residual-current device')}
            />
          )}
          <Pad>
            {['7', '8', '9', '4', '5', '6', '1', '2', '3', '0', '.', '⌫'].map((k) => (
              <button
                key={k}
                type="button"
                disabled={closed}
                aria-label={k === '⌫' ? say('delete the last digit') : k}
                onClick={() => press(k)}
              >
                {k}
              </button>
            ))}
            <button
              type="button"
              className="go"
              disabled={closed || value === null || value === undefined || record.isPending}
              onClick={recordValue}
            >
              {say('Record, next test')}
            </button>
            <button
              type="button"
              className="small"
              disabled={closed || record.isPending}
              onClick={() => send({ overRange: true, ...withTool })}
            >
              {say('over range')}
            </button>
          </Pad>
        </>
      )}
      <Button sx={{ mt: 1 }} disabled={closed} onClick={() => setWhy('')}>
        {say('Could not test')}
      </Button>
      <Dialog open={why !== undefined} onClose={() => setWhy(undefined)} aria-label={say('Why it could not be tested')}>
        <Reason>
          <TextField
            autoFocus
            label={say('Why it could not be tested')}
            value={why ?? ''}
            onChange={(e) => setWhy(e.target.value)}
            helperText={say('The test stays open: the job cannot be handed over without it.')}
          />
          <Button
            variant="contained"
            disabled={!why?.trim()}
            onClick={() => {
              send({ couldNot: why });
              setWhy(undefined);
            }}
          >
            {say('Record')}
          </Button>
        </Reason>
      </Dialog>
    </Box>
  );
}
