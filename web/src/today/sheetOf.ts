const sheets: Record<string, string> = {
  'first fix': 'first-fix',
  'second fix': 'second-fix',
  test: 'test',
  materials: 'materials',
  handover: 'handover',
};

/** The sheet on which the steps of a stage are worked. */
export const sheetOf = (stage: string) => sheets[stage] ?? 'survey';
