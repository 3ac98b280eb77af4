import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { show, view } from '../testing/fixture';
import { OpenNeutral } from './OpenNeutral';

const suspect = {
  title: 'Supply voltage, line to neutral',
  summary: 'Far outside 216.2 to 253 V.',
  by: 'Vik',
  at: '2026-05-04T09:00:00Z',
  reported: false,
};

const job = (s: typeof suspect | null) => view({ tests: { ...view().view.tests, suspect: s } });

test('a suspected open neutral says what to do now, in its order, and leads to the report', () => {
  const nothing = show(<OpenNeutral job={job(null)} />);
  expect(screen.queryByRole('alert')).toBeNull();
  nothing.unmount();
  const open = show(<OpenNeutral job={job(suspect)} />);
  expect(screen.getAllByRole('listitem').map((li) => li.textContent)).toEqual([
    'Open the main switch now, and lock it.',
    'Disconnect nothing of earth, bonding or neutral.',
    'Keep everybody off earthed metal: pipes, taps, cases, a car on charge. An open main switch does not make it safe.',
    'Report it to the network operator at once, by telephone',
  ]);
  expect(screen.getByRole('link').getAttribute('href')).toBe('/jobs/job-1/supply?leaf=desk');
  open.unmount();
  show(<OpenNeutral job={job({ ...suspect, reported: true })} />);
  expect(screen.queryByRole('link')).toBeNull();
  expect(screen.getByText(/the supervisor then orders the retest in writing/)).toBeTruthy();
});
