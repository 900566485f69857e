import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { show } from '../../test/show';
import { SpotList } from './SpotList';
import type { View } from './view';

const view = (where: string[] = []) =>
  ({ range: { from: '2026-11-01', to: '2026-11-30' }, where, search: '' }) as unknown as View;

it('says how often spots were seen and clicked, and what followed', async () => {
  const asked: Record<string, unknown>[] = [];
  show(<SpotList view={view()} />, {
    'GET /api/v1/arrivals/spots': ({ query }) => {
      asked.push(query!);
      return {
        from: '2026-11-01',
        to: '2026-11-30',
        spots: [
          {
            name: 'header banner',
            seen: 1_200,
            seenVisits: 800,
            clicked: 90,
            clickedVisits: 80,
            clickRate: 0.1,
            conversionsAfterSeen: 30,
            conversionsAfterClicked: 12,
          },
        ],
        found: 1,
        rawFrom: '2026-11-05',
      };
    },
  });
  const table = await screen.findByRole('table', { name: 'Spots' });
  await within(table).findByText('header banner');
  expect(
    within(table)
      .getAllByRole('cell')
      .map((c) => c.textContent),
  ).toEqual(['header banner', '1,200', '800', '90', '10.0 %', '30', '12']);
  expect(screen.getByText(/Spots are known from 5 Nov 2026 on/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'after a click' }));
  await waitFor(() => expect(asked.at(-1)).toMatchObject({ sort: 'conversions', page: 1 }));
});

it('says how to name a spot where none was seen', async () => {
  show(<SpotList view={view()} />, {
    'GET /api/v1/arrivals/spots': { data: { from: '', to: '', spots: [], found: 0, rawFrom: null } },
  });
  expect(await screen.findByText(/data-beacon-spot/)).toBeTruthy();
});
