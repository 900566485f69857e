import { screen, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import type { CampaignAnswer } from '../../api/client';
import { figures } from '../../parts/board/measures.test';
import { show } from '../../test/show';
import { CampaignResults } from './CampaignResults';

const campaign = {
  id: 'c1',
  name: 'Bulb Sale',
  value: 'bulb_sale',
  startsOn: '2026-09-10',
  endsOn: '2026-10-31',
} as CampaignAnswer;
const result = (placement: string | null, more: object = {}) => ({
  placement,
  links: 2,
  clicks: 200,
  visits: 1_250,
  conversions: 60,
  conversionRate: 0.04,
  revenue: figures.revenue!,
  cost: { amount: '120.00', currency: 'GBP' },
  profit: { amount: '780.00', currency: 'GBP' },
  figures,
  ...more,
});

it('draws a line for each placement with its cost and profit, and its visits over time', async () => {
  const asked: Record<string, unknown>[] = [];
  show(
    <CampaignResults
      campaign={campaign}
      results={[result('Gate poster'), result(null, { cost: null, profit: null })]}
      total={result('All')}
    />,
    {
      'GET /api/v1/arrivals': ({ query }) => {
        asked.push(query!);
        return { series: [{ day: '2026-10-01', visits: 7, convertingVisits: 0 }] };
      },
    },
  );
  const cells = (name: string) =>
    within(screen.getByText(name).closest<HTMLElement>('[role=row]')!)
      .getAllByRole('gridcell')
      .map((c) => c.textContent);
  expect(cells('Gate poster').slice(-4)).toEqual(['2', '£25.00', '£120.00', '£780.00']);
  expect(cells('No placement').slice(-4)).toEqual(['2', '£25.00', '–', '–']);
  expect(screen.getByText('All placements')).toBeTruthy();
  await screen.findByText('1 Oct 2026: 7 visits');
  expect(asked[0]).toMatchObject({ where: ['campaign:is:bulb_sale'], rows: '' });
  expect(screen.getByRole('link', { name: 'Show in Arrivals' }).getAttribute('href')).toContain(
    'campaign%3Ais%3Abulb_sale',
  );
});

it('leaves refunds out where there are none', () => {
  const none = { figures: { ...figures, refunds: { amount: '0.00', currency: 'GBP' } } };
  show(<CampaignResults campaign={campaign} results={[result('Gate poster', none)]} total={result('All', none)} />);
  expect(screen.queryByText('Refunds')).toBeNull();
});

it('says so before the first link is created', () => {
  show(<CampaignResults campaign={campaign} results={[]} total={result('All')} />);
  expect(screen.getByText('No results until the first link is created.')).toBeTruthy();
});
