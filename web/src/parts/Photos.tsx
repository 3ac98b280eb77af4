import { moment, say } from '../words/words';
import { Button, Dialog } from '@mui/material';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { newKey, Trouble, type Of } from '../api/client';
import { keep, queries } from '../api/job';
import { sendPicture, shrink } from '../api/picture';

import { Quiet, Row, Wrong } from './layout';

interface Pending {
  key: string;
  name: string;
  body?: Blob;
  summary: string;
  tries: boolean; // tried again by itself
}

/** Photos of one thing: taken, chosen or dropped in; shrunk here, kept with it. For the phone in one hand. */
export function Photos({ job, subject, what, small }: { job: Of<'JobView'>; subject: string; what: string; small?: boolean }) {
  const file = useRef<HTMLInputElement>(null);
  const [pending, setPending] = useState<Pending[]>([]);
  const [open, setOpen] = useState<Of<'Record'>>();
  const records = job.view.job?.records ?? [];
  const gone = new Set(records.map((r) => r.supersedes).filter(Boolean));
  const photos = records.filter((r) => r.kind === 'photo' && r.subject === subject && !r.done && !gone.has(r.id));
  const patch = (key: string, next: Partial<Pending>) => setPending((all) => all.map((p) => (p.key === key ? { ...p, ...next } : p)));

  const send = async (p: Pending, body: Blob) => {
    patch(p.key, { body, summary: 'sending …', tries: false });
    try {
      keep(queries, await sendPicture(job.id, subject, '', body, p.key));
      setPending((all) => all.filter((x) => x.key !== p.key));
    } catch (e) {
      const t = e instanceof Trouble ? e : undefined;
      patch(p.key, { summary: t?.message ?? String(e), tries: !t || t.status === 0 || t.status >= 500 });
    }
  };
  const take = (files: FileList | null) => {
    for (const f of files ?? []) {
      const p: Pending = { key: newKey(), name: f.name, summary: 'shrinking …', tries: false };
      setPending((all) => [...all, p]);
      shrink(f).then(
        (body) => send(p, body),
        (e: Error) => patch(p.key, { summary: e.message }),
      );
    }
  };
  const again = useRef(send);
  again.current = send;
  const waits = pending.some((p) => p.tries);
  useEffect(() => {
    if (!waits) return;
    const timer = window.setInterval(() => pending.forEach((p) => p.tries && p.body && void again.current(p, p.body)), 4000);
    return () => window.clearInterval(timer);
  }, [waits, pending]);

  return (
    <div
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e: DragEvent) => {
        e.preventDefault();
        take(e.dataTransfer.files);
      }}
    >
      <Row style={{ gap: 6 }}>
        {photos.map((p) => (
          <button
            key={p.id}
            type="button"
            onClick={() => setOpen(p)}
            aria-label={say('Photo of {{what}}, {{by}}, {{at}}', { what, by: p.by, at: moment(p.at) })}
            style={{ border: '1px solid var(--rule2)', padding: 0, background: 'none', cursor: 'pointer', lineHeight: 0 }}
          >
            <img src={`/api/jobs/${job.id}/photos/${p.reference}`} alt="" style={{ height: small ? 44 : 64, width: 'auto' }} />
          </button>
        ))}
        <Button className="no-print" disabled={job.view.frozen} onClick={() => file.current?.click()}>
          {small && photos.length === 0 ? say('Photo') : say('Add a photo')}
        </Button>
        <input
          ref={file}
          type="file"
          hidden
          multiple
          accept="image/*"
          data-photos={subject}
          onChange={(e) => {
            take(e.target.files);
            e.target.value = '';
          }}
        />
      </Row>
      {pending.map((p) => (
        <Wrong key={p.key}>
          {p.name}: {p.summary} {p.tries && say('It is tried again while this page stays open.')}
          {!p.summary.endsWith('…') && (
            <Button sx={{ ml: 1 }} onClick={() => setPending((all) => all.filter((x) => x.key !== p.key))}>
              {say('Cancel')}
            </Button>
          )}
        </Wrong>
      ))}
      {open && (
        <Dialog open onClose={() => setOpen(undefined)} maxWidth="lg" aria-label={say('Photo of {{what}}', { what })}>
          <img src={`/api/jobs/${job.id}/photos/${open.reference}`} alt={what} style={{ maxWidth: '100%', maxHeight: '80vh' }} />
          <Row style={{ padding: 10 }}>
            <Quiet>
              {open.by}, {moment(open.at)}
            </Quiet>
            <Button sx={{ ml: 'auto' }} onClick={() => setOpen(undefined)}>
              {say('Close')}
            </Button>
          </Row>
        </Dialog>
      )}
    </div>
  );
}
