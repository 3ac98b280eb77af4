import { styled } from '@mui/material/styles';
import { moment, say } from '../words/words';
import { Button, Dialog } from '@mui/material';
import { useRef, useState, type DragEvent } from 'react';
import type { Of } from '../api/client';
import { usePictures } from '../api/pictures';

import { Quiet, Row, Wrong } from './layout';

const Thumb = styled('button')({ border: '1px solid var(--rule2)', padding: 0, background: 'none', cursor: 'pointer', lineHeight: 0 });
const Large = styled('img')({ maxWidth: '100%', maxHeight: '80vh' });

/** Photos of one thing: taken, chosen or dropped in; shrunk here, kept with it. For the phone in one hand. */
export function Photos({ job, subject, what, small }: { job: Of<'JobView'>; subject: string; what: string; small?: boolean }) {
  const file = useRef<HTMLInputElement>(null);
  const { waiting, take, drop } = usePictures(job.id, subject);
  const [open, setOpen] = useState<Of<'Record'>>();
  const records = job.view.job?.records ?? [];
  const gone = new Set(records.map((r) => r.supersedes).filter(Boolean));
  const photos = records.filter((r) => r.kind === 'photo' && r.subject === subject && !r.done && !gone.has(r.id));

  return (
    <div
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e: DragEvent) => {
        e.preventDefault();
        take(e.dataTransfer.files);
      }}
    >
      <Row gap="s">
        {photos.map((p) => (
          <Thumb
            key={p.id}
            type="button"
            onClick={() => setOpen(p)}
            aria-label={say('Photo of {{what}}, {{by}}, {{at}}', { what, by: p.by, at: moment(p.at) })}
          >
            <img src={`/api/jobs/${job.id}/photos/${p.reference}`} alt="" style={{ height: small ? 44 : 64, width: 'auto' }} />
          </Thumb>
        ))}
        <Button className="no-print" onClick={() => file.current?.click()}>
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
            take(e.target.files ?? []);
            e.target.value = '';
          }}
        />
      </Row>
      {waiting.map((w) =>
        w.refused ? (
          <Wrong key={w.key}>
            {w.name}: {w.refused}
            <Button sx={{ ml: 1 }} onClick={() => drop(w.key)}>
              {say('Cancel')}
            </Button>
          </Wrong>
        ) : (
          <Quiet key={w.key} role="status" data-kept-picture={w.body && ''} block>
            {w.body
              ? say('{{name}}, {{at}}: waits for a connection.', { name: w.name, at: moment(w.at) })
              : say('{{name}}: shrinking …', { name: w.name })}
          </Quiet>
        ),
      )}
      {open && (
        <Dialog open onClose={() => setOpen(undefined)} maxWidth="lg" aria-label={say('Photo of {{what}}', { what })}>
          <Large src={`/api/jobs/${job.id}/photos/${open.reference}`} alt={what} />
          <Row pad="m">
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
