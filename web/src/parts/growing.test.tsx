import { act, renderHook, waitFor } from '@testing-library/react';
import { useGrowing } from './growing';

test('a long table is drawn from its first rows on until all are there, at once for paper', async () => {
  const long = renderHook(() => useGrowing(500));
  expect(long.result.current).toBeLessThan(100);
  await waitFor(() => expect(long.result.current).toBe(500));
  expect(renderHook(() => useGrowing(7)).result.current).toBe(7);
  const printed = renderHook(() => useGrowing(100_000));
  expect(printed.result.current).toBeLessThan(100_000);
  act(() => void window.dispatchEvent(new Event('beforeprint')));
  expect(printed.result.current).toBe(100_000);
});
