import type { Of } from '../api/client';
import { SheetTable, Td } from './layout';
import { Mark } from './Mark';

/** The facts of a letter to the operator, each as it is known or still missing. */
export function LetterFacts({ letter, label }: { letter: Of<'DeskLetter'>; label: string }) {
  return (
    <SheetTable aria-label={label}>
      <tbody>
        {letter.facts.map((f) => (
          <tr key={f.name}>
            <Td width={20}>
              <Mark verdict={f.missing ? 'unknown' : 'pass'} size={13} />
            </Td>
            <Td width={160}>{f.name}</Td>
            <td>{f.value}</td>
          </tr>
        ))}
      </tbody>
    </SheetTable>
  );
}
