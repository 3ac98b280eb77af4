import { screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { serve, show, view } from '../../testing/fixture';
import { PermitForm } from './PermitForm';

const connection = vi.hoisted(() => ({ down: false, asOf: undefined as string | undefined }));
vi.mock('../../api/reading', async (real) => ({ ...(await real<object>()), useConnection: () => connection }));

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

test('without a connection nothing is permitted, as locks that others hung since are not seen', () => {
  serve({});
  const up = show(<PermitForm job={view()} part={part} use={use} />);
  expect(screen.getByRole('button', { name: 'Permit' })).toBeTruthy();
  up.unmount();
  connection.down = true;
  connection.asOf = '2026-05-04T09:00:00Z';
  show(<PermitForm job={view()} part={part} use={use} />);
  expect(screen.getByText(/Not permitted: there is no connection/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Permit' })).toBeNull();
});
