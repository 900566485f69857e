import { describe, expect, it } from 'vitest';
import table from './figureTexts.json';
import {
  difference,
  figureLabel,
  figureOf,
  isMeasure,
  isStation,
  isSum,
  rateBetween,
  sizeOf,
  usualColumns,
  usualNames,
  usualStations,
  type Figures,
  type MeasureName,
} from './measures';

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
  verifiedConversions: 20.5,
  conversionsGained: -2.7,
  named: {},
  conversionRate: 0.04,
  revenue: pounds('900.00'),
  refunds: pounds('25.00'),
  revenueGained: pounds('-12.30'),
  averageOrder: pounds('15.00'),
  revenuePerVisit: pounds('0.72'),
  revenuePerVisitor: pounds('0.90'),
  cost: pounds('600.00'),
  costPerClick: pounds('3.00'),
  costPerVisit: pounds('0.48'),
  costPerConversion: pounds('10.00'),
  costPerThousandShown: pounds('2.50'),
  profit: pounds('275.00'),
  return: 0.458_333,
  shown: 240_000,
  sent: 1_900,
  delivered: 1_870,
  opened: null,
};

describe('a figure', () => {
  it('is called and chosen as on paper', () => {
    expect(Object.fromEntries(usualNames.map((name) => [name, figureLabel(name)]))).toEqual(table.labels);
    expect({ stations: usualStations, columns: usualColumns }).toEqual(table.usual);
    expect(usualNames.filter(isSum).sort()).toEqual([...table.sums].sort());
  });

  it.each(table.texts as [MeasureName, string][])('%s reads as %s, as on paper', (name, says) => {
    expect(figureOf(name, figures)).toBe(says);
  });

  it('may be of one kind or name, whatever stands in it', () => {
    const some = { ...figures, named: { 'conversions:ticket': 1_234, 'events:a%2Cb 50%25': 7 } };
    expect([figureLabel('conversions:ticket'), figureOf('conversions:ticket', some)]).toEqual(['ticket', '1,234']);
    expect([figureLabel('events:a%2Cb 50%25'), sizeOf('events:a%2Cb 50%25', some)]).toEqual(['a,b 50%', 7]);
    expect([sizeOf('events:never', some), difference('conversions:ticket', some, figures)]).toEqual([0, 'new']);
    expect(['conversions:ticket', 'events:', 'events', 'nothing', 'toString'].map(isMeasure)).toEqual([
      true,
      false,
      true,
      false,
      false,
    ]);
    expect([isStation('events:video'), isStation('bounceRate'), isSum('events:video')]).toEqual([true, false, true]);
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
  it.each(table.between as [MeasureName, MeasureName, string][])(
    '%s and %s stands %s, as on paper',
    (before, name, says) => {
      expect(rateBetween(before, name, figures)).toBe(says);
    },
  );

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
  it.each(table.differences as [number, number, string][])('of %d to %d is %s, as on paper', (now, then, says) => {
    expect(difference('visits', of(now), of(then))).toBe(says);
  });

  it('needs both', () => {
    expect(difference('visits', figures, null)).toBe('');
    expect(difference('clicks', { ...figures, clicks: null }, figures)).toBe('');
  });
});
