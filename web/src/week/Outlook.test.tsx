import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { Of } from '../api/client';
import { serve, show } from '../testing/fixture';
import { Outlook } from './Outlook';

afterEach(() => vi.unstubAllGlobals());

const people: Of<'WeekPerson'>[] = [{ id: 'p1', name: 'Vik', role: 'electrician', days: [], slipped: 0, lapses: [] }];
const days = ['2026-05-05', '2026-05-06'];
const kept: Of<'Outlook'> = {
  away: [{ person: 'p1', from: '2026-05-07', to: '2026-05-08', why: 'training' }],
  weather: [
    { day: '2026-05-05', rainMM: 4, windKmH: null, lowC: null, highC: null, by: '' },
    { day: '2026-06-01', rainMM: 1, windKmH: null, lowC: null, highC: null, by: 'Vik' },
  ],
};

test('who is away and the weather are kept; what nobody typed of a day is nothing', async () => {
  const sent = serve({ '/api/outlook': kept, 'PUT /api/outlook': kept });
  show(<Outlook people={people} days={days} onClose={() => undefined} />, 'office');
  await waitFor(() => expect(document.querySelector('[data-away="Vik"]')).not.toBeNull());
  expect(screen.getByText(/A stand-in made this weather up/)).toBeTruthy();

  const note = screen.getByRole<HTMLButtonElement>('button', { name: 'Note it' });
  expect(note.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('From'), { target: { value: '2026-05-20' } });
  fireEvent.click(note);
  await waitFor(() => expect(sent).toHaveLength(1));
  expect((sent[0].body as Of<'Outlook'>).away[1]).toMatchObject({ person: '', from: '2026-05-20', to: '2026-05-20' });
  expect((sent[0].body as Of<'Outlook'>).weather).toHaveLength(2);

  const rain = document.querySelector<HTMLInputElement>('[name="rainMM-2026-05-06"]')!;
  fireEvent.change(rain, { target: { value: 'wet' } });
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the weather' }).disabled).toBe(true);
  fireEvent.change(rain, { target: { value: '7,5' } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep the weather' }));
  await waitFor(() => expect(sent).toHaveLength(2));
  const weather = (sent[1].body as Of<'Outlook'>).weather;
  expect(weather.map((w) => w.day)).toEqual(['2026-06-01', '2026-05-05', '2026-05-06']);
  expect(weather[2]).toMatchObject({ rainMM: 7.5, windKmH: null, lowC: null, highC: null });
});
