import type { Of } from '../../api/client';
import { gathered } from './gathered';

const item = (title: string, summary: string, ready = false): Of<'ReadyItem'> => ({
  title,
  summary,
  ready,
  sheet: 'second-fix',
  who: 'crew',
});

test('what is open of the same thing stands together, what is ready by itself', () => {
  const of = gathered([
    item('Second fix done', 'a'),
    item('Survey', '', true),
    item('Second fix done', 'b'),
    item('Tests', 'c'),
    item('Survey', '', true),
  ]);
  expect(of.map((g) => g.map((i) => i.summary || i.title))).toEqual([['a', 'b'], ['Survey'], ['c'], ['Survey']]);
});
