import { MutationObserver, QueryObserver } from '@tanstack/react-query';
import { expect, it, vi } from 'vitest';
import { newQueryClient } from '../api/queryClient';

it('asks anew what a change outdates before the change counts as done, and nothing else', async () => {
  const queries = newQueryClient({ retry: false });
  const asked = { keys: vi.fn(() => asked.keys.mock.calls.length), pages: vi.fn(() => 0) };
  await queries.fetchQuery({ queryKey: ['keys', 'all'], queryFn: asked.keys });
  await queries.fetchQuery({ queryKey: ['pages'], queryFn: asked.pages });
  const seen: unknown[] = [];
  await new MutationObserver(queries, {
    mutationFn: () => Promise.resolve('done'),
    meta: { outdates: [['keys']] },
    onSuccess: () => void seen.push(queries.getQueryState(['keys', 'all'])!.isInvalidated),
  }).mutate();
  expect(seen).toEqual([true]);
  expect(queries.getQueryState(['pages'])!.isInvalidated).toBe(false);
});

it('outdates nothing when the change is refused', async () => {
  const queries = newQueryClient({ retry: false });
  await queries.fetchQuery({ queryKey: ['keys'], queryFn: () => 1 });
  const change = new MutationObserver(queries, {
    mutationFn: () => Promise.reject(new Error('refused')),
    meta: { outdates: [['keys']] },
  });
  await expect(change.mutate()).rejects.toThrow('refused');
  expect(queries.getQueryState(['keys'])!.isInvalidated).toBe(false);
});

it('asks once more what was asked before a change and answered after it', async () => {
  const queries = newQueryClient({ retry: false });
  const answers: ((said: string) => void)[] = [];
  const list = new QueryObserver(queries, {
    queryKey: ['keys'],
    queryFn: () => new Promise<string>((answer) => answers.push(answer)),
  });
  list.subscribe(() => {});
  const change = new MutationObserver(queries, {
    mutationFn: () => Promise.resolve('done'),
    meta: { outdates: [['keys']] },
  }).mutate();
  await vi.waitFor(() => expect(answers).toHaveLength(1));
  await new Promise((done) => setTimeout(done));
  answers[0]!('as it was');
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  answers[1]!('as it is');
  await change;
  expect(list.getCurrentResult().data).toBe('as it is');
});
