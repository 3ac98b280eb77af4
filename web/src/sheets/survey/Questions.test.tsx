import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../../api/client';
import { serve, show, view } from '../../testing/fixture';
import { Questions } from './Questions';

const room = (id: string, points: unknown[] = []) => ({ id, name: id, answered: {}, points }) as unknown as Of<'Room'>;
const asks = (id: string, room: string, group: string, add = '') =>
  ({ id, room, group, add, alike: `no ${id}`, asks: `${room} has no ${id}`, why: 'usual', source: '' }) satisfies Of<'Question'>;

function jobOf(questions: Of<'Question'>[], rooms: Of<'Room'>[], controls: Of<'Control'>[] = []) {
  const job = view({}, { rooms });
  return { ...job, view: { ...job.view, walk: { ...job.view.walk, questions, controls } } };
}

test('what is asked of alike rooms is answered once for all of them, in one step', async () => {
  const sent = serve();
  const rooms = [room('north'), room('south'), room('hall')];
  const job = jobOf(
    [asks('tv', 'north', 'tv/bedroom', 'tv'), asks('tv', 'south', 'tv/bedroom', 'tv'), asks('bell', 'hall', 'bell/hall')],
    rooms,
  );
  show(<Questions job={job} j={job.view.job!} />);
  expect(screen.getByText('2 open')).toBeTruthy();
  expect(screen.getByText('north, south')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'No for all' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  const parts = (sent[0].body as unknown as { parts: { part: string; body: Of<'Room'> }[] }).parts;
  expect(parts.map((p) => [p.part, p.body.answered])).toEqual([
    ['rooms/north', { tv: 'no' }],
    ['rooms/south', { tv: 'no' }],
  ]);
});

test('how lights are switched is said for the lights of which nobody said it, and for no other', async () => {
  const sent = serve();
  const light = (id: string, switching: string) => ({ id, kind: 'light', switching });
  const rooms = [room('north', [light('a', ''), light('b', 'sensor')]), room('south', [light('a', '')])];
  const control = (r: string) => ({ room: r, point: 'a', assumed: true }) as unknown as Of<'Control'>;
  const job = jobOf([asks('switching', 'north', 'switching'), asks('switching', 'south', 'switching')], rooms, [
    control('north'),
    control('south'),
  ]);
  show(<Questions job={job} j={job.view.job!} />);
  fireEvent.click(screen.getByRole('button', { name: 'From two places' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  const parts = (sent[0].body as unknown as { parts: { part: string; body: Of<'Room'> }[] }).parts;
  expect(parts.map((p) => [p.part, p.body.points.map((x) => x.switching)])).toEqual([
    ['rooms/north', ['two-way', 'sensor']],
    ['rooms/south', ['two-way']],
  ]);
});
