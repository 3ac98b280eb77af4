import { say } from '../words/words';
import type { Of } from '../api/client';
import { Caution } from './layout';

/** What whoever works on site must know of it: as the survey wrote it down, and each hazard that is not cleared. */
export function SiteHazards({ j }: { j: Of<'Job'> }) {
  const room = (id: string) => j.rooms.find((r) => r.id === id)?.name;
  const open = j.found.hazards.filter((h) => !h.clear);
  if (!j.site.hazards && open.length === 0) return null;
  return (
    <Caution>
      {j.site.hazards && (
        <>
          <b>{say('Hazards on site:')}</b> {j.site.hazards}
        </>
      )}
      {open.map((h, i) => (
        <span key={i} data-hazard={h.kind} style={{ display: 'block' }}>
          <b>{say('Not cleared: {{kind}}', { kind: h.kind })}</b>, {[h.place, room(h.room), h.floor].filter(Boolean).join(', ')}
          {h.note && `. ${h.note}`}
        </span>
      ))}
    </Caution>
  );
}
