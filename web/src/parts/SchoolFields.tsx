import type { Of } from '../api/client';
import { usePracticeTerms } from '../api/job';
import type { Part } from '../api/part';
import { get, put } from '../api/paths';
import { ChoiceBox, NumberBox, TextBox } from './fields';
import { Fields } from './layout';

type Option = Of<'SchoolOption'>;

/** What is chosen of an option, its usual way where nobody chose. */
function chosen(options: Option[], at: (id: string) => unknown, id: string): unknown {
  return at(id) || options.find((o) => o.id === id)?.usual;
}

/** Choices between schools of practice as the practice declares them, each way with its reason. */
export function SchoolFields({ part, prefix = '', practice }: { part: Part; prefix?: string; practice: string }) {
  const options = usePracticeTerms(practice).data?.options ?? [];
  const at = (id: string) => get(part.value, `${prefix}options.${id}`);
  return (
    <Fields least={270}>
      {options
        .filter((o) => !o.where || chosen(options, at, o.where) === o.whereChosen)
        .map((o) => (
          <SchoolField key={o.id} part={part} path={`${prefix}options.${o.id}`} option={o} value={chosen(options, at, o.id)} />
        ))}
    </Fields>
  );
}

function SchoolField({ part, path, option: o, value }: { part: Part; path: string; option: Option; value: unknown }) {
  const bound = { part: { ...part, value: put(part.value as object, path, value) } as Part, path, label: o.title };
  if (o.choices.length > 0) {
    const why = o.choices.find((way) => way.id === value)?.why;
    return <ChoiceBox {...bound} options={o.choices} help={why ? `${o.help} ${why}` : o.help} />;
  }
  return o.chars > 0 ? <TextBox {...bound} help={o.help} /> : <NumberBox {...bound} unit={o.unit} help={o.help} />;
}

/** Whether a way that is chosen on the job asks for something beside it on a sheet. */
export function useSchoolAsks(schools: Of<'Schools'>, practice: string): (what: string) => boolean {
  const options = usePracticeTerms(practice).data?.options ?? [];
  const at = (id: string) => schools.options[id];
  return (what) => options.some((o) => o.choices.some((way) => way.asks === what && way.id === chosen(options, at, o.id)));
}
