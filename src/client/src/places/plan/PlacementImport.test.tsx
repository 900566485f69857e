import { fireEvent, screen } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { choose, show } from '../../test/show';
import { PlacementImport } from './PlacementImport';
import { isTagged } from './useTaggedChannels';

const row = { channel: 'Communities', publisher: null, defaults: {}, useDays: [], useForm: null, problem: null };
const rows = [
  { ...row, number: 1, name: 'Lakeside walkers', state: 'new' },
  { ...row, number: 2, name: 'City gardeners', state: 'exists' },
];

it('shows what it would create, and creates it then', async () => {
  const done = vi.fn();
  const sent = show(<PlacementImport channels={['Communities']} onClose={vi.fn()} onDone={done} />, {
    'POST /api/v1/placements/import': (asked) => ({ rows, new: 1, made: asked.query?.dry === false }),
  });
  fireEvent.change(screen.getByLabelText('Names or cells'), {
    target: { value: 'Lakeside walkers\nCity gardeners' },
  });
  await choose('Channel of all', 'Communities');
  fireEvent.click(screen.getByText('Preview'));
  fireEvent.click(await screen.findByText('Create 1 placement'));
  await vi.waitFor(() => expect(done).toHaveBeenCalledWith('1 placement created.'));
  expect(sent.map((s) => [s.query?.dry, s.query?.channel, s.body])).toEqual([
    [true, 'Communities', 'Lakeside walkers\nCity gardeners'],
    [false, 'Communities', 'Lakeside walkers\nCity gardeners'],
  ]);
});

it('forgets its preview when what it was of has changed', async () => {
  show(<PlacementImport channels={[]} onClose={vi.fn()} onDone={vi.fn()} />, {
    'POST /api/v1/placements/import': { data: { rows, new: 1, made: false } },
  });
  const names = screen.getByLabelText('Names or cells');
  fireEvent.change(names, { target: { value: 'One' } });
  fireEvent.click(screen.getByText('Preview'));
  expect(await screen.findByText('exists already and stays as it is')).toBeTruthy();
  fireEvent.change(names, { target: { value: 'Two' } });
  expect(screen.queryByText(/^Create/)).toBeNull();
});

it('knows channels that links are tagged for', () => {
  const condition = (subject: string, test: string) => ({ subject, test, values: [] }) as never;
  expect(isTagged({ conditions: [condition('medium', 'is')] })).toBe(true);
  expect(isTagged({ conditions: [condition('printed', 'is')] })).toBe(true);
  expect(isTagged({ conditions: [condition('referrerKind', 'is'), condition('medium', 'empty')] })).toBe(false);
  expect(isTagged({ conditions: [] })).toBe(false);
});
