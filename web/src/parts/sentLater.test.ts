import { expect, test } from 'vitest';
import type { Of } from '../api/client';
import { sentLater } from './sentLater';

const record = (of: Partial<Of<'Record'>>) => ({ at: '2026-06-03T10:00:00Z', ...of }) as Of<'Record'>;

test('a record says when it was sent later, and by how much a clock was off', () => {
  expect(sentLater(record({}))).toBe('');
  expect(sentLater(record({ receivedAt: '2026-06-03T10:00:02Z' }))).toBe('');
  expect(sentLater(record({ receivedAt: '2026-06-03T12:00:00Z' }))).toMatch(/^ · sent /);
  expect(sentLater(record({ receivedAt: '2026-06-03T10:00:02Z', clockOffS: 7200 }))).toBe(' · the clock of the device was 120 min ahead');
  expect(sentLater(record({ clockOffS: -600 }))).toBe(' · the clock of the device was 10 min behind');
});
