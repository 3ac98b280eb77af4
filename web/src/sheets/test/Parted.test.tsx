import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { as, record, serve, show, testRow, view } from '../../testing/fixture';
import { Parted } from './Parted';
import { RetestOrder } from './RetestOrder';

test('what is parted is connected again by whoever may, one after the other, and noted by hand', async () => {
  const sent = serve({});
  const conductors = [
    { id: 'earth', name: 'Main earthing conductor', clamped: true, parted: record({ id: 'l1', kind: 'loose-end' }) },
    { id: 'surge', name: 'Surge devices', clamped: false, parted: record({ id: 'l2', kind: 'loose-end' }) },
    { id: 'bond:gas', name: 'Bonding of gas', clamped: true, parted: null },
  ];
  show(<Parted job={view({ tests: { ...view().view.tests, conductors } })} />);
  fireEvent.change(screen.getByLabelText('Disconnected by hand'), { target: { value: 'bond:gas' } });
  expect(screen.queryByRole('option', { name: 'Surge devices' })).toBeNull();
  fireEvent.change(screen.getByLabelText('Current in it before, A'), { target: { value: '0,04' } });
  fireEvent.click(screen.getByRole('button', { name: 'Write it down' }));
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ kind: 'loose-end', parted: 'bond:gas', clampA: 0.04, acrossV: null }));
  fireEvent.click(screen.getByRole('button', { name: /All 2 are reconnected/ }));
  await waitFor(() => expect(sent.slice(1).map((s) => (s.body as { subject: string }).subject)).toEqual(['l1', 'l2']));
});

test('after a live test that failed the supervisor orders in writing, and everybody sees what', async () => {
  const sent = serve({});
  const row = testRow({ title: 'Loop impedance', live: true, orderable: true, reading: record({ id: 'r9', value: 9 }) });
  const electrician = show(<RetestOrder job={view(as('electrician'))} row={row} />);
  expect(screen.getByText(/The supervisor orders a retest/)).toBeTruthy();
  electrician.unmount();
  const supervisor = show(<RetestOrder job={view()} row={row} />);
  fireEvent.click(screen.getByRole('button', { name: 'A guarded search for its fault' }));
  fireEvent.change(screen.getByLabelText(/Why, and what/), { target: { value: 'one leg at a time' } });
  fireEvent.click(screen.getByRole('button', { name: 'Order it' }));
  await waitFor(() =>
    expect(sent[0]?.body).toMatchObject({ kind: 'retest-order', subject: 'r9', path: 'search', note: 'one leg at a time' }),
  );
  supervisor.unmount();
  show(<RetestOrder job={view()} row={{ ...row, ordered: record({ kind: 'retest-order', path: 'search', note: 'one leg at a time' }) }} />);
  expect(screen.getByText(/A guarded search for its fault is ordered/)).toBeTruthy();
});
