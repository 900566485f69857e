import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { figures } from '../../parts/board/measures.test';
import { show } from '../../test/show';
import { Results } from './Results';

const about = (more: object = {}) => ({
  title: 'Autumn so far',
  workspace: 'Marrowmere Botanic Garden',
  timeZone: 'Europe/Dublin',
  today: '2026-11-30',
  currency: null,
  address: 'span=30d&rows=source,field.tone&where=source:not:direct&sort=-revenue',
  since: null,
  labels: { 'field.tone': 'Tone' },
  ...more,
});
const answer = (more: object = {}) => ({
  from: '2026-11-01',
  to: '2026-11-30',
  rows: [],
  found: 0,
  rest: null,
  restRows: 0,
  total: { ...figures, revenue: null },
  before: null,
  series: [{ day: '2026-11-28', visits: 5, convertingVisits: 0 }],
  per: 'day',
  names: {},
  unknown: {},
  sort: '-visits',
  revenueElsewhere: [],
  costElsewhere: [],
  refundsElsewhere: [],
  dailyVisitors: false,
  shareWithId: 1,
  lost: 0,
  manyValues: [],
  named: [],
  freshness: { upTo: null, waiting: 0 },
  campaigns: [],
  ...more,
});
const row = (key: string) => ({
  keys: [key],
  figures: { ...figures, revenue: null },
  before: null,
  beside: null,
  series: null,
});

function results(of: object = {}) {
  const asked: Record<string, unknown>[] = [];
  show(<Results token="secret" />, {
    'GET /api/v1/results/{token}': { data: about(of) },
    'GET /api/v1/results/{token}/arrivals': ({ query }) => {
      asked.push(query!);
      return query!.series
        ? answer()
        : answer({ rows: query!.open ? [row('calm')] : [row('the_trellis'), row('herald')], found: 2 });
    },
    'GET /api/v1/results/{token}/counts': {
      data: {
        all: counts({ clicks: 3_000, others: { Crawler: 5 } }),
        month: counts({ clicks: 40 }),
      },
    },
  });
  return asked;
}

const counts = (more: object) => ({
  clicks: 0,
  scans: 0,
  unique: 0,
  visits: 36,
  visitsDue: 38,
  others: {},
  unit: 'day',
  series: [{ from: '2026-11-28T00:00:00', clicks: 4, scans: 0 }],
  countries: [{ name: 'IE', hits: 30 }],
  places: [],
  devices: [],
  referrers: [],
  weekHours: Array.from({ length: 168 }, () => 0),
  ...more,
});

describe('a results page of a view', () => {
  it('says what it covers and has no money unless that is allowed', async () => {
    const asked = results();
    await screen.findByText('the_trellis');
    expect(document.body.textContent).toContain('only visits where source is not direct');
    expect(screen.queryByText('Revenue')).toBeNull();
    expect(asked.every((a) => !String(a.measures).includes('revenue') && a.sort === undefined)).toBe(true);
  });

  it('opens its rows, and asks for nothing but what is opened', async () => {
    const asked = results();
    await screen.findByText('the_trellis');
    const line = screen.getByText('the_trellis').closest<HTMLElement>('[role=row]')!;
    fireEvent.click(within(line).getByRole('button', { name: 'Open the row' }));
    await screen.findByText('calm');
    const opened = asked.find((a) => a.open);
    expect(opened).toMatchObject({ open: ['source:is:the_trellis'] });
    expect(Object.keys(opened!)).not.toContain('where');
    expect(screen.getByText('source, then Tone')).toBeTruthy();
  });

  it('is ordered by whoever reads it', async () => {
    const asked = results({ currency: 'EUR' });
    fireEvent.click(await screen.findByRole('button', { name: 'Stayed' }));
    await waitFor(() => expect(asked.some((a) => a.sort === '-stayed')).toBe(true));
    expect(asked.some((a) => a.sort === '-revenue')).toBe(true);
  });

  it('that is gone says so', async () => {
    show(<Results token="wrong" />, {
      'GET /api/v1/results/{token}': { refused: 'The address is mistyped, or the page was withdrawn or has ended.' },
    });
    expect(await screen.findByText(/withdrawn or has ended/)).toBeTruthy();
  });
});

it('shows one link’s figures, people apart from everything else', async () => {
  results({ address: null, since: '2025-05-16', title: 'Volunteer Call · The Trellis' });
  expect(await screen.findByText(/Since 16 May 2025 · used 3,000 times by people/)).toBeTruthy();
  expect(screen.getByText('Ireland')).toBeTruthy();
  expect(document.body.textContent).toContain('Crawlers and previews, 5 hits, are left out.');
  expect(screen.getByText('Since it was made').closest('[role=row]')!.textContent).not.toContain('£');
});
