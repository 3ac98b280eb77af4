import { TextField } from '@mui/material';
import type { Of } from '../../api/client';
import { Fields } from '../../parts/layout';
import { Pick } from '../../parts/Pick';
import { moment, say } from '../../words/words';
import type { Kit } from './useTester';

const kinds = () => [
  { id: 'contact', name: say('two-pole tester') },
  { id: 'meter', name: say('multimeter') },
  { id: 'sensor', name: say('sensor without contact') },
];

/** The tester that is read with. */
export function TesterFields({ kit, onChange }: { kit: Kit; onChange: (k: Kit) => void }) {
  return (
    <Fields>
      <TextField
        label={say('Tester')}
        value={kit.tester}
        helperText={say('make and number')}
        onChange={(e) => onChange({ ...kit, tester: e.target.value })}
        slotProps={{ htmlInput: { name: 'tester' } }}
      />
      <Pick
        label={say('Kind of tester')}
        name="testerKind"
        value={kit.testerKind}
        empty={say('choose')}
        help={say('a sensor is a hint and never proof')}
        onChange={(v) => onChange({ ...kit, testerKind: v as Kit['testerKind'] })}
        options={kinds()}
      />
    </Fields>
  );
}

/** Whether the closing proof of an isolation before serves as the one before this, of the same tester. */
export const servesBefore = (job: Of<'JobView'>, kit: Kit) => {
  const r = job.view.tests.serves;
  return r && r.tester === kit.tester ? r : undefined;
};

/** What is said of a proof that serves. */
export const servesSays = (r: Of<'Record'>) => say('Tester proved at {{at}}: that proof serves', { at: moment(r.at) });
