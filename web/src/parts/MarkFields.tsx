import type { Part } from '../api/part';
import { say } from '../words/words';
import { DateBox } from './DateBox';
import { TextBox } from './fields';

/** What is on record of other services where the ground is broken: the request, until when its marks hold, who digs and who answers for damage. */
export function MarkFields({ part, path }: { part: Part; path: string }) {
  return (
    <>
      <TextBox part={part} path={`${path}.located`} label={say('Request to locate services, reference')} />
      <DateBox part={part} path={`${path}.locatedTo`} label={say('Marks hold until')} />
      <TextBox part={part} path={`${path}.dugBy`} label={say('Dug by')} />
      <TextBox part={part} path={`${path}.liable`} label={say('Liable for damage to services')} />
    </>
  );
}
