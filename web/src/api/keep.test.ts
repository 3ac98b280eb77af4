import { QueryClient } from '@tanstack/react-query';
import { view } from '../testing/fixture';
import { keep } from './job';

test('what was asked for before a write does not come over its answer', async () => {
  const client = new QueryClient();
  const before = { ...view(), version: 4 };
  const after = { ...view(), version: 5 };
  const answers: ((v: typeof before) => void)[] = [];
  const queryFn = () => new Promise<typeof before>((resolve) => answers.push(resolve));
  const read = client.fetchQuery({ queryKey: ['job', before.id], queryFn }).catch(() => undefined);
  keep(client, after);
  expect(answers).toHaveLength(2); // it is read anew
  answers[0](before); // and what comes late is not taken
  answers[1](after);
  await read;
  await vi.waitFor(() => expect(client.isFetching()).toBe(0));
  expect(client.getQueryData<typeof before>(['job', before.id])?.version).toBe(5);
});
