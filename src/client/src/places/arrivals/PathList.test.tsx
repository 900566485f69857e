import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { show } from '../../test/show';
import { PathList } from './PathList';
import type { View } from './view';

const view = (where: string[] = []) =>
  ({
    range: { from: '2026-11-01', to: '2026-11-30' },
    where,
    credit: { rule: 'last', beside: '', days: 30 },
  }) as unknown as View;
const revenue = { amount: '18.00', currency: 'EUR' };

it('says which visits led to conversions, and how often', async () => {
  const asked: Record<string, unknown>[] = [];
  show(<PathList view={view()} own={[]} />, {
    'GET /api/v1/arrivals/paths': ({ query }) => {
      asked.push(query!);
      return {
        from: '2026-11-01',
        to: '2026-11-30',
        paths: [
          { steps: ['Newsletter', 'Direct'], isCut: false, conversions: 3, revenue },
          { steps: ['Posters', null, 'Direct'], isCut: true, conversions: 1, revenue },
        ],
        found: 2,
        conversions: 4,
        names: {},
      };
    },
  });
  const table = await screen.findByRole('table', { name: 'Paths' });
  await within(table).findByText('Newsletter');
  const cells = within(table)
    .getAllByRole('row')
    .slice(1)
    .map((r) =>
      within(r)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    );
  expect(cells).toEqual([
    ['NewsletterDirect', '3', '75.0 %', '€18.00'],
    ['earlier visitsPostersUnsortedDirect', '1', '25.0 %', '€18.00'],
  ]);
  expect(screen.getByText(/4 conversions by 2 paths/)).toBeTruthy();
  expect(asked[0]).toMatchObject({ by: 'channel', creditDays: 30, page: 1 });
});

it('says so where nobody converted', async () => {
  show(<PathList view={view(['device:is:phone'])} own={[]} />, {
    'GET /api/v1/arrivals/paths': {
      data: { from: '', to: '', paths: [], found: 0, conversions: 0, names: {} },
    },
  });
  expect(await screen.findByText(/Nobody converted in this range in visits that fulfil the filters/)).toBeTruthy();
});
