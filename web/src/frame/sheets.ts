import { msg, say } from '../words/words';

/** The sheets of a job in their order on the riser. */
export const sheets = [
  { id: 'survey', name: msg('Survey'), key: '1' },
  { id: 'supply', name: msg('Supply'), key: '2' },
  { id: 'circuits', name: msg('Circuits'), key: '3' },
  { id: 'board', name: msg('Board'), key: '4' },
  { id: 'materials', name: msg('Materials'), key: '5' },
  { id: 'plan', name: msg('Plan'), key: '6' },
  { id: 'first-fix', name: msg('First fix'), key: '7' },
  { id: 'second-fix', name: msg('Second fix'), key: '8' },
  { id: 'test', name: msg('Test'), key: '9' },
  { id: 'handover', name: msg('Handover'), key: '0' },
] as const;

/** What a sheet is called in the words of the practice. */
export const sheetName = (id: string) => say(sheets.find((s) => s.id === id)?.name ?? msg(id));
