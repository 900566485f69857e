import { expect, it } from 'vitest';
import { inOrder } from './inOrder';

const visit = (id: string, at: string) =>
  ({
    id,
    startedAt: at,
    channel: 'Email',
    source: 'trellis',
    medium: 'email',
    campaign: null,
    landingPage: 'a/b',
  }) as never;
const trial = (id: string, at: string | null) =>
  ({
    id,
    startedBy: 'Tomas Birch',
    visit: at && { startedAt: at, channel: 'Display', source: 'wendfar', medium: null, campaign: 'x', page: 'a/c' },
  }) as never;

it('shows visits and trials that arrived, the newest first, each as what it is', () => {
  const arrived = inOrder(
    [visit('v2', '2026-12-02T10:05:00Z'), visit('v1', '2026-12-02T10:00:00Z')],
    [trial('t3', null), trial('t2', '2026-12-02T10:02:00Z'), trial('t1', '2026-12-02T09:00:00Z')],
  );
  expect(arrived.map((a) => [a.id, a.trial])).toEqual([
    ['v2', undefined],
    ['t2', 'Tomas Birch'],
    ['v1', undefined],
  ]);
  expect(arrived[1]).toMatchObject({ channel: 'Display', source: 'wendfar', medium: null, page: 'a/c' });
});

it('shows trials where nobody else came', () =>
  expect(inOrder([], [trial('t1', '2026-12-02T09:00:00Z')]).map((a) => a.id)).toEqual(['t1']));
