import { say } from '../words/words';
import { Caution } from './layout';

/** What whoever works on site must know of it, as the survey wrote it down. */
export function SiteHazards({ text }: { text: string }) {
  return text ? (
    <Caution>
      <b>{say('Hazards on site:')}</b> {text}
    </Caution>
  ) : null;
}
