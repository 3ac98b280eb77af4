import { fireEvent, screen, waitFor } from '@testing-library/react';
import { record, serve, show, view } from '../testing/fixture';
import { LockStrip } from './LockStrip';

afterEach(() => vi.unstubAllGlobals());

const hour = 3_600_000;
const at = (ago: number) => new Date(Date.now() - ago * hour).toISOString();

test('whoever has a lock in place since an earlier day is asked whether it is off; nobody is of another’s', async () => {
  const sent = serve();
  const base = view();
  const me = record({ id: 'l1', kind: 'isolation', by: 'Vik', lockTag: 'tag 7', at: at(26) });
  const other = record({ id: 'l2', kind: 'isolation', by: 'Mo', lockTag: 'tag 8', at: at(26) });
  show(<LockStrip job={view({ tests: { ...base.view.tests, locks: [me, other] } })} />);
  expect(screen.getByText(/tag 7. Is it off/)).toBeTruthy();
  expect(screen.queryByText(/tag 8. Is it off/)).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'It is off' }));
  await waitFor(() => expect(sent[0].body).toEqual({ kind: 'lock-off', subject: 'l1' }));
});
