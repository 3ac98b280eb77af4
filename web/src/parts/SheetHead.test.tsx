import { fireEvent, render, screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Of } from '../api/client';
import { SheetHead, Waits } from './SheetHead';

const hold = (sheet: string, what: string) => ({ sheet, what });
const job = {
  view: { state: { holds: [hold('survey', 'the existing load'), hold('board', 'a way'), hold('survey', 'a room')] } },
} as Of<'JobView'>;

test('what a sheet waits for is one line until it is opened', () => {
  const { container } = render(<Waits job={job} sheet="survey" otherwise="all there" />);
  expect(screen.getByText('2 open').tagName).toBe('SUMMARY');
  expect(container.querySelector('details')!.open).toBe(false);
  expect([...container.querySelectorAll('li')].map((l) => l.textContent)).toEqual(['the existing load', 'a room']);
  render(<Waits job={job} sheet="supply" otherwise="all there" />);
  expect(screen.getByText('all there')).toBeTruthy();
});

test('the tables of a sheet stand behind one button, each as two files', () => {
  render(
    <SheetHead
      title="Board"
      job="j1"
      tables={[
        ['board', 'Ways'],
        ['checks', 'Checks'],
      ]}
    />,
  );
  expect(screen.queryByRole('menuitem')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Tables' }));
  expect(screen.getAllByRole('menuitem').map((a) => [a.textContent, a.getAttribute('href')])).toEqual([
    ['Ways as CSV', '/api/jobs/j1/tables/board'],
    ['Ways as XLSX', '/api/jobs/j1/tables/board?format=xlsx'],
    ['Checks as CSV', '/api/jobs/j1/tables/checks'],
    ['Checks as XLSX', '/api/jobs/j1/tables/checks?format=xlsx'],
  ]);
});

test('a sheet without tables has no button for them', () => {
  render(<SheetHead title="Company" job="j1" />);
  expect(screen.queryByRole('button')).toBeNull();
});
