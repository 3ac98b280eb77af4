import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Of } from '../../api/client';
import { forget } from '../../api/outbox';
import { ownedBy } from '../../api/own';
import { usePart } from '../../api/part';
import { emptyRoom, serve, show, view } from '../../testing/fixture';
import { ShorthandEntry } from './ShorthandEntry';
import { TapKeys } from './TapKeys';

const line: Of<'ReadLine'> = {
  text: 'hall: 2 doubel socket, zzz',
  spans: [
    { text: 'hall', class: 'room', summary: '' },
    { text: ': ', class: 'space', summary: '' },
    { text: 'doubel', class: 'guess', summary: 'read as “double”' },
    { text: 'zzz', class: 'unread', summary: '' },
  ],
  room: 'hall',
  kind: 'hall',
  floor: '',
  points: [],
  remark: '',
  misread: [{ text: 'zzz', summary: 'not understood: kept as it was typed', suggest: 'socket', kept: false, taken: false }],
};

/** A server that answers the walk; a lost connection while `down`. */
function walkServer() {
  const state = { down: false, refuse: false, walked: [] as { text: string; key: string }[] };
  vi.stubGlobal('fetch', async (request: Request) => {
    if (state.down) throw new TypeError('Failed to fetch');
    const path = new URL(request.url).pathname;
    const body = JSON.parse((await request.text()) || 'null') as { text: string };
    if (path.endsWith('/walk')) {
      if (state.refuse)
        return new Response(JSON.stringify({ status: 422, title: 'a room first' }), {
          status: 422,
          headers: { 'Content-Type': 'application/problem+json' },
        });
      state.walked.push({ text: body.text, key: request.headers.get('Idempotency-Key') ?? '' });
    }
    const answer = path === '/api/shorthand' ? [line] : path.endsWith('/walk') ? view() : [];
    return new Response(JSON.stringify(answer), { headers: { 'Content-Type': 'application/json' } });
  });
  return state;
}

beforeEach(() => {
  localStorage.clear();
  forget();
  ownedBy('p1');
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const box = () => screen.getByLabelText<HTMLTextAreaElement>('Add rooms: one line a room');

describe('the line of the walk', () => {
  it('shows how it is read, and what would be understood', async () => {
    walkServer();
    show(<ShorthandEntry job={view()} floor="" />);
    fireEvent.change(box(), { target: { value: 'hall: 2 doubel socket, zzz' } });
    const unread = await screen.findByText('zzz');
    expect(unread.className).toBe('unread');
    expect(screen.getByText('doubel').title).toBe('read as “double”');
    fireEvent.click(screen.getByText('Read it as “socket”'));
    expect(box().value).toBe('hall: 2 doubel socket, socket');
  });

  it('keeps lines through a lost connection and sends each once, in order, under its own key', async () => {
    const server = walkServer();
    server.down = true;
    show(<ShorthandEntry job={view()} floor="" />);
    for (const text of ['a: light', 'b: light']) {
      fireEvent.change(box(), { target: { value: text } });
      fireEvent.keyDown(box(), { key: 'Enter' });
    }
    expect(box().value).toBe('');
    await screen.findByText(/2 lines wait here/);
    expect(JSON.parse(localStorage.getItem('arvelt:p1:walk:job-1') ?? '[]')).toHaveLength(2);

    // The page is reloaded meanwhile: the lines are there still.
    cleanup();
    forget();
    server.down = false;
    show(<ShorthandEntry job={view()} floor="" />);
    await waitFor(() => expect(server.walked.map((w) => w.text)).toEqual(['a: light', 'b: light']));
    expect(new Set(server.walked.map((w) => w.key)).size).toBe(2);
    await waitFor(() => expect(localStorage.getItem('arvelt:p1:walk:job-1')).toBeNull());
  });

  it('gives a refused line back to be edited', async () => {
    const server = walkServer();
    server.refuse = true;
    show(<ShorthandEntry job={view()} floor="" />);
    fireEvent.change(box(), { target: { value: '2 socket' } });
    fireEvent.keyDown(box(), { key: 'Enter' });
    fireEvent.click(await screen.findByText('Edit it'));
    expect(box().value).toBe('2 socket');
    expect(localStorage.getItem('arvelt:p1:walk:job-1')).toBeNull();
  });

  it('keeps what is typed and not yet taken over a reload', () => {
    walkServer();
    show(<ShorthandEntry job={view()} floor="" />);
    fireEvent.change(box(), { target: { value: 'attic: li' } });
    cleanup();
    show(<ShorthandEntry job={view()} floor="" />);
    expect(box().value).toBe('attic: li');
  });
});

const room = emptyRoom('hall', 'hall');

function Keys({ job }: { job: Of<'JobView'> }) {
  return <TapKeys part={usePart(job, 'rooms/r1', room)} />;
}

describe('the keys of the walk', () => {
  it('count one more with each press, by state, and take the last back', async () => {
    const kind = (id: string, family: string) => ({ id, name: id, word: id, family, own: false, heightMM: 0, box: '' });
    const sent = serve({
      '/api/terms': { survey: { kinds: [kind('socket-2', 'sockets'), kind('light', 'lighting')], switching: ['two-way'] } },
    });
    show(<Keys job={view({}, { rooms: [room] })} />);
    const key = await screen.findByText('socket-2');
    fireEvent.click(key);
    fireEvent.click(key);
    fireEvent.click(screen.getByText('goes'));
    fireEvent.click(screen.getByText('socket-2'));
    fireEvent.click(screen.getByText('Take back'));
    await waitFor(() => {
      // What another test left under way may still be sent meanwhile.
      const last = sent
        .map((s) => s.body as Partial<Of<'Room'>> | null)
        .filter((b) => b?.points)
        .at(-1);
      expect(last?.points?.map((p) => [p.kind, p.count, p.state])).toEqual([['socket-2', 2, 'new']]);
    });
  });
});
