import { act, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { answered, Trouble } from '../../api/client';
import { reading } from '../../api/reading';
import { serve, show, view } from '../../testing/fixture';
import { PermitForm } from './PermitForm';

afterEach(() => {
  vi.unstubAllGlobals();
  act(() => answered.tell());
});

const lost = () => reading('nothing', () => Promise.reject(new Trouble(0, { status: 0, title: 'gone' }))).catch(() => undefined);

const use = { use: 'test', waits: [], asks: [{ id: 'people', title: 'Everyone is told' }] };
const part = {
  closes: ['main'],
  name: 'Main switch',
  reaches: ['Board A'],
  state: 'locked',
  permit: null,
  lapsed: '',
  covers: [],
  for: [use],
};

test('without a connection nothing is permitted, as locks that others hung since are not seen', async () => {
  serve({});
  const up = show(<PermitForm job={view()} part={part} use={use} />);
  expect(screen.getByRole('button', { name: 'Permit' })).toBeTruthy();
  up.unmount();
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')));
  await act(lost);
  show(<PermitForm job={view()} part={part} use={use} />);
  expect(screen.getByText(/Not permitted: there is no connection/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Permit' })).toBeNull();
});
