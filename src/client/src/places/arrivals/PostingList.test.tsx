import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { show } from '../../test/show';
import { PostingList } from './PostingList';
import { viewOf } from './view';

const group = (name: string, visits = 0, postings = 0) => ({
  name,
  postings,
  visits,
  conversions: 0,
  visitsEach: postings === 0 ? null : visits / postings,
});
const posting = {
  linkId: 'l1',
  title: 'Seed Swap · Pippinwall page',
  placement: 'Pippinwall page',
  campaign: 'Seed Swap',
  at: '2026-11-27T09:15:00Z',
  weekday: 5,
  hour: 9,
  visits: { hour: 3, day: 14, week: 20 },
  conversions: { hour: 0, day: 1, week: 2 },
  hours: 70,
};

const list = (more: object = {}) =>
  show(<PostingList view={viewOf(new URLSearchParams(), '2026-11-30')} own={[]} />, {
    'GET /api/v1/arrivals/postings': {
      data: {
        from: '2026-11-01',
        to: '2026-11-30',
        postings: [posting],
        placements: [group('Pippinwall page', 14, 1)],
        weekdays: Array.from({ length: 7 }, (_, i) => group(String(i + 1), i === 4 ? 14 : 0, i === 4 ? 1 : 0)),
        hours: Array.from({ length: 24 }, (_, i) => group(String(i), i === 9 ? 14 : 0, i === 9 ? 1 : 0)),
        bestWeekday: null,
        bestHour: null,
        ignored: [],
        rawFrom: null,
        more: false,
        ...more,
      },
    },
  });

it('shows what came in the first hour, day and week, and marks a span that still lasts', async () => {
  list();
  const line = within((await screen.findAllByText('Pippinwall page'))[0]!.closest('tr')!);
  expect(
    line
      .getAllByRole('cell')
      .slice(2)
      .map((c) => c.textContent),
  ).toEqual(['3', '141 conv.', '20…2 conv.']);
});

it('tells no best time where the differences can be chance', async () => {
  list();
  expect(await screen.findByText(/the differences here can be chance/)).toBeTruthy();
});

it('tells a best time with how sure that is', async () => {
  list({ bestHour: { group: 9, lift: 0.42, postings: 12, chance: 0.012 } });
  expect(
    await screen.findByText(/from 09:00 to 10:00 bring 42.0 % more visits .*12 postings.*1.2 % of cases/),
  ).toBeTruthy();
});

it('says which filters do not narrow postings', async () => {
  list({ ignored: ['country', 'source'] });
  expect(await screen.findByText(/not by country, source/)).toBeTruthy();
});

it('says what to do where nothing was posted', async () => {
  list({ postings: [] });
  expect(await screen.findByText(/Mark a share text as placed in Compose/)).toBeTruthy();
});

it('says that there are older ones than it shows', async () => {
  list({ more: true });
  expect(await screen.findByText(/These are the 1 newest postings of the range/)).toBeTruthy();
});
