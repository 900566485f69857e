import { describe, expect, it } from 'vitest';
import { difference, figureOf, rateBetween, sizeOf, type Figures } from './measures';

const pounds = (amount: string) => ({ amount, currency: 'GBP' });

export const figures: Figures = {
  clicks: 200,
  scans: 12,
  visitsPerClick: 0.9,
  visits: 1_250,
  visitors: 1_000,
  newVisitors: 300,
  pageViews: 3_000,
  events: 40,
  pagesPerVisit: 2.4,
  secondsPerVisit: 75.4,
  bounces: 500,
  stayed: 750,
  bounceRate: 0.4,
  convertingVisits: 50,
  conversions: 60,
  verifiedConversions: 20,
  conversionRate: 0.04,
  revenue: pounds('900.00'),
  averageOrder: pounds('15.00'),
  revenuePerVisit: pounds('0.72'),
  revenuePerVisitor: pounds('0.90'),
};

describe('a figure', () => {
  it.each([
    ['visits', '1,250'],
    ['revenue', '£900.00'],
    ['bounceRate', '40.0 %'],
    ['secondsPerVisit', '1:15'],
    ['pagesPerVisit', '2.4'],
  ] as const)('%s reads as %s', (name, says) => {
    expect(figureOf(name, figures)).toBe(says);
  });

  it('that is not known is a dash and has no size', () => {
    const unknown = { ...figures, clicks: null, averageOrder: null, visitors: null };
    expect(figureOf('clicks', unknown)).toBe('–');
    expect(figureOf('averageOrder', unknown)).toBe('–');
    expect(sizeOf('visitors', unknown)).toBeNull();
    expect(sizeOf('revenue', figures)).toBe(900);
  });
});

describe('between two stations', () => {
  it.each([
    ['clicks', 'visits', '90.0 %'],
    ['visits', 'stayed', '60.0 %'],
    ['stayed', 'convertingVisits', '4.0 %'],
    ['convertingVisits', 'revenue', '£15.00 each'],
    ['pageViews', 'stayed', ''],
    ['visitors', 'visits', ''],
  ] as const)('%s and %s stands %s', (before, name, says) => {
    expect(rateBetween(before, name, figures)).toBe(says);
  });

  it('stands nothing without a divisor', () => {
    const none = { ...figures, visits: 0, stayed: 0, visitsPerClick: null, conversionRate: null, averageOrder: null };
    for (const [before, name] of [
      ['clicks', 'visits'],
      ['visits', 'stayed'],
      ['stayed', 'convertingVisits'],
      ['convertingVisits', 'revenue'],
    ] as const)
      expect(rateBetween(before, name, none)).toBe('');
  });
});

describe('a difference', () => {
  const of = (visits: number): Figures => ({ ...figures, visits });
  it.each([
    [150, 100, '+50.0 %'],
    [75, 100, '−25.0 %'],
    [100, 100, '±0 %'],
    [5, 0, 'new'],
    [0, 0, ''],
  ])('of %d to %d is %s', (now, then, says) => {
    expect(difference('visits', of(now), of(then))).toBe(says);
  });

  it('needs both', () => {
    expect(difference('visits', figures, null)).toBe('');
    expect(difference('clicks', { ...figures, clicks: null }, figures)).toBe('');
  });
});
