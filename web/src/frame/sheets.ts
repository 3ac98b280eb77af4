/** The sheets of a job in their order on the riser. */
export const sheets = [
  { id: 'survey', name: 'Survey', key: '1' },
  { id: 'supply', name: 'Supply', key: '2' },
  { id: 'circuits', name: 'Circuits', key: '3' },
  { id: 'board', name: 'Board', key: '4' },
  { id: 'materials', name: 'Materials', key: '5' },
  { id: 'plan', name: 'Plan', key: '6' },
  { id: 'first-fix', name: 'First fix', key: '7' },
  { id: 'second-fix', name: 'Second fix', key: '8' },
  { id: 'test', name: 'Test', key: '9' },
  { id: 'handover', name: 'Handover', key: '0' },
] as const;

export const sheetName = (id: string) => sheets.find((s) => s.id === id)?.name ?? id;
