import { fireEvent, screen, waitFor } from '@testing-library/react';
import { serve, show } from '../testing/fixture';
import { NewJob } from './NewJob';

afterEach(() => vi.unstubAllGlobals());

const value = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;

test('a job begins as the company has it, its title is proposed, and what is typed goes before what is proposed', async () => {
  const sent = serve({
    '/api/terms': { id: 'split120', practices: [{ id: 'split120', name: 'Split phase' }], editions: [], defaults: [], why: '' },
    '/api/jobs/next': { ref: 'PW-7', practice: 'split120', kind: 'repair' },
  });
  show(<NewJob onClose={() => {}} onDone={() => {}} />);
  await waitFor(() => expect(value('Reference')).toBe('PW-7'));
  expect(value('Kind')).toBe('repair');
  fireEvent.change(screen.getByLabelText('Kind'), { target: { value: 'rewire' } });
  fireEvent.change(screen.getByLabelText('Address'), { target: { value: '2 Sexton Lane' } });
  expect(value('Title')).toBe('Rewire, 2 Sexton Lane');
  fireEvent.change(screen.getByLabelText('Title'), { target: { value: 'The print shop' } });
  fireEvent.change(screen.getByLabelText('Kind'), { target: { value: 'addition' } });
  expect(value('Title')).toBe('The print shop');
  fireEvent.click(screen.getByRole('button', { name: 'Start' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0].body).toMatchObject({
    ref: 'PW-7',
    title: 'The print shop',
    kind: 'addition',
    practice: 'split120',
    address: '2 Sexton Lane',
  });
});

test('a reference that is proposed while somebody is in the field waits until they have left it', async () => {
  serve({
    '/api/terms': { id: 'split120', practices: [], editions: [], defaults: [], why: '' },
    '/api/jobs/next': { ref: 'PW-7', practice: 'split120', kind: 'repair' },
  });
  show(<NewJob onClose={() => {}} onDone={() => {}} />);
  fireEvent.focus(screen.getByLabelText('Reference'));
  await waitFor(() => expect(value('Kind')).toBe('repair'));
  expect(value('Reference')).toBe('');
  fireEvent.blur(screen.getByLabelText('Reference'));
  expect(value('Reference')).toBe('PW-7');
  fireEvent.focus(screen.getByLabelText('Reference'));
  fireEvent.change(screen.getByLabelText('Reference'), { target: { value: 'X-1' } });
  expect(value('Reference')).toBe('X-1');
});
