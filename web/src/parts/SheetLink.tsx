import { Link } from 'react-router';
import type { Of } from '../api/client';
import { sheetName } from '../frame/sheets';
import { say } from '../words/words';

/** The one link to where something is put right. */
export function SheetLink({ job, at }: { job: string; at: Of<'TaskAt'> }) {
  const params = new URLSearchParams({ ...(at.leaf && { leaf: at.leaf }), ...(at.circuit && { c: at.circuit }) }).toString();
  return <Link to={`/jobs/${job}/${at.sheet}${params && `?${params}`}`}>{say('{{sheet}} sheet', { sheet: sheetName(at.sheet) })}</Link>;
}
