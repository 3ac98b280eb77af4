import { applyPatch, type Operation } from 'fast-json-patch';
import { api, ask, type Answer, type Of } from './client';

// A job goes over the wire whole once. From then on each request says which answer this page
// has, and is told what differs from it.

type JobView = Of<'JobView'>;

// The last answers, newest last: a write may be answered against one that another has overtaken.
const known = new Map<string, JobView>();
const latest = new Map<string, string>(); // the tag of the newest answer of each job
const few = 8;

/** Remembers a job as it was answered. */
export function remember(view: JobView): JobView {
  known.set(view.tag, view);
  if (known.size > few) known.delete(known.keys().next().value as string);
  const now = known.get(latest.get(view.id) ?? '');
  if (!now || now.version <= view.version) latest.set(view.id, view.tag);
  return view;
}

/** Forgets what was answered: another person is told everything anew. */
export function forgetAnswers() {
  known.clear();
  latest.clear();
}

/** The tag of the newest answer of a job, for a request about it. */
export const tagOf = (job: string) => {
  const tag = latest.get(job);
  return tag && known.has(tag) ? tag : undefined;
};

api.use({
  onRequest({ request }) {
    const job = /^\/api\/jobs\/([^/]+)/.exec(new URL(request.url).pathname)?.[1];
    const tag = job && tagOf(job);
    if (tag) request.headers.set('Job-Tag', tag);
    return request;
  },
});

/** The job whole, from an answer that may say only what differs. */
export async function whole(answer: Of<'JobAnswer'>): Promise<JobView> {
  if (!('patch' in answer)) return remember(answer);
  const from = known.get(answer.from);
  if (from) return remember(applyPatch(from, answer.patch as Operation[], false, false).newDocument);
  latest.delete(answer.id);
  return whole(await ask(api.GET('/api/jobs/{id}', { params: { path: { id: answer.id } } })));
}

let writing = 0;
let waits: (() => void)[] = [];
const longest = 5000;

/** Runs something once no write is on its way: what this page did itself it learns from the answer. */
export function afterWrites(run: () => void) {
  if (writing === 0) {
    run();
    return;
  }
  let done = false;
  const once = () => {
    if (!done) run();
    done = true;
  };
  waits.push(once);
  window.setTimeout(once, longest);
}

function written() {
  writing--;
  if (writing > 0) return;
  const now = waits;
  waits = [];
  now.forEach((run) => run());
}

/** Unwraps the answer of a write as the job whole. */
export async function askJob(call: Promise<Answer<Of<'JobAnswer'>>>): Promise<JobView> {
  writing++;
  try {
    return await whole(await ask(call));
  } finally {
    window.setTimeout(written); // whoever asked has taken the answer by then
  }
}
