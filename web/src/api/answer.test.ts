import { view } from '../testing/fixture';
import { afterWrites, askJob, forgetAnswers, remember, tagOf, whole } from './answer';
import { api, type Of } from './client';

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
  forgetAnswers();
});

const state = (tag: string, version: number, town: string): Of<'JobView'> => {
  const v = view();
  return { ...v, tag, version, view: { ...v.view, job: { ...v.view.job!, site: { ...v.view.job!.site, town } } } };
};
const change = (from: string, tag: string, version: number, town: string): Of<'JobChange'> => ({
  id: 'job-1',
  from,
  patch: [
    { op: 'replace', path: '/tag', value: tag },
    { op: 'replace', path: '/version', value: version },
    { op: 'replace', path: '/view/job/site/town', value: town },
  ],
});

test('what differs is applied to the answer that it differs from, also where another has overtaken it', async () => {
  const first = remember(state('t1', 1, 'A'));
  const second = await whole(change('t1', 't2', 2, 'B'));
  const third = await whole(change('t1', 't3', 3, 'C'));
  expect([first, second, third].map((v) => [v.tag, v.view.job?.site.town])).toEqual([
    ['t1', 'A'],
    ['t2', 'B'],
    ['t3', 'C'],
  ]);
  expect(tagOf('job-1')).toBe('t3');
});

test('a difference from what this page does not have is asked for whole; each request says what it has', async () => {
  const asked: (string | null)[] = [];
  vi.stubGlobal('fetch', (r: Request) => {
    asked.push(r.headers.get('Job-Tag'));
    return Promise.resolve(new Response(JSON.stringify(state('t9', 9, 'Z')), { headers: { 'Content-Type': 'application/json' } }));
  });
  expect((await whole(change('gone', 't5', 5, 'E'))).view.job?.site.town).toBe('Z');
  await api.GET('/api/jobs/{id}', { params: { path: { id: 'job-1' } } });
  await api.GET('/api/jobs/{id}', { params: { path: { id: 'job-2' } } });
  expect(asked).toEqual([null, 't9', null]);
});

test('what others are said to have changed waits for the answer of a write that is on its way', async () => {
  let answer: (r: Response) => void = () => {};
  vi.stubGlobal('fetch', () => new Promise<Response>((done) => (answer = done)));
  const ran: string[] = [];
  const write = askJob(api.POST('/api/jobs/{id}/redo', { params: { path: { id: 'job-1' }, header: { 'Idempotency-Key': 'key-12345' } } }));
  afterWrites(() => ran.push('event'));
  await Promise.resolve();
  expect(ran).toEqual([]);
  await vi.waitFor(() => answer(new Response(JSON.stringify(state('t1', 4, 'A')), { headers: { 'Content-Type': 'application/json' } })));
  await write;
  await vi.waitFor(() => expect(ran).toEqual(['event']));
  afterWrites(() => ran.push('at once'));
  expect(ran).toEqual(['event', 'at once']);
});
