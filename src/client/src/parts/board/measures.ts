import type { Schema } from '../../api/client';
import { count, duration, money, noFigure, rate, shared } from '../format';

/** Figures as the server answers them. */
export type Figures = Schema['FigureAnswer'];

interface Measure {
  label: string;
  /** Its size, which dots and orders go by; null for no figure. */
  size: (f: Figures) => number | null;
  /** As people read it. */
  says: (f: Figures) => string;
}

const counted = (label: string, of: (f: Figures) => number | null): Measure => ({
  label,
  size: of,
  says: (f) => {
    const n = of(f);
    return n === null ? noFigure : count(n);
  },
});
const partly = (label: string, of: (f: Figures) => number): Measure => ({
  label,
  size: of,
  says: (f) => shared(of(f)),
});
const ratio = (label: string, of: (f: Figures) => number | null): Measure => ({
  label,
  size: of,
  says: (f) => rate(of(f)),
});
const amount = (label: string, of: (f: Figures) => Schema['Money'] | null): Measure => ({
  label,
  size: (f) => {
    const m = of(f);
    return m ? Number(m.amount) : null;
  },
  says: (f) => money(of(f)),
});

const gains = new Intl.NumberFormat('en-IE', { maximumFractionDigits: 1, signDisplay: 'exceptZero' });
const oneDigit = new Intl.NumberFormat('en-IE', { minimumFractionDigits: 1, maximumFractionDigits: 1 });

/** Figures that every report has, by the name calls have for them, in the order they are offered. */
const measures = {
  clicks: counted('Clicks', (f) => f.clicks),
  scans: counted('Scans', (f) => f.scans),
  visits: counted('Visits', (f) => f.visits),
  visitors: counted('Visitors', (f) => f.visitors),
  newVisitors: counted('New visitors', (f) => f.newVisitors),
  stayed: counted('Stayed', (f) => f.stayed),
  bounces: counted('Bounces', (f) => f.bounces),
  convertingVisits: counted('Converted', (f) => f.convertingVisits),
  conversions: partly('Conversions', (f) => f.conversions),
  verifiedConversions: partly('Verified', (f) => f.verifiedConversions),
  conversionsGained: {
    label: 'Conversions gained',
    size: (f) => f.conversionsGained,
    says: (f) => (f.conversionsGained === null ? noFigure : gains.format(f.conversionsGained).replace('-', '−')),
  },
  pageViews: counted('Page views', (f) => f.pageViews),
  events: counted('Events', (f) => f.events),
  revenue: amount('Revenue', (f) => f.revenue),
  refunds: amount('Refunds', (f) => f.refunds),
  revenueGained: amount('Revenue gained', (f) => f.revenueGained),
  visitsPerClick: ratio('Visits per click', (f) => f.visitsPerClick),
  bounceRate: ratio('Bounce rate', (f) => f.bounceRate),
  conversionRate: ratio('Conversion rate', (f) => f.conversionRate),
  pagesPerVisit: {
    label: 'Pages per visit',
    size: (f) => f.pagesPerVisit,
    says: (f) => (f.pagesPerVisit === null ? noFigure : oneDigit.format(f.pagesPerVisit)),
  },
  secondsPerVisit: {
    label: 'Time per visit',
    size: (f) => f.secondsPerVisit,
    says: (f) => duration(f.secondsPerVisit),
  },
  averageOrder: amount('Average order', (f) => f.averageOrder),
  revenuePerVisit: amount('Revenue per visit', (f) => f.revenuePerVisit),
  revenuePerVisitor: amount('Revenue per visitor', (f) => f.revenuePerVisitor),
  cost: amount('Cost', (f) => f.cost),
  costPerClick: amount('Cost per click', (f) => f.costPerClick),
  costPerVisit: amount('Cost per visit', (f) => f.costPerVisit),
  costPerConversion: amount('Cost per conversion', (f) => f.costPerConversion),
  costPerThousandShown: amount('Cost per thousand shown', (f) => f.costPerThousandShown),
  profit: amount('Profit', (f) => f.profit),
  return: ratio('Return', (f) => f.return),
  shown: counted('Shown', (f) => f.shown),
  sent: counted('Sent', (f) => f.sent),
  delivered: counted('Delivered', (f) => f.delivered),
  opened: counted('Opened', (f) => f.opened),
} satisfies Record<string, Measure>;

type UsualName = keyof typeof measures;

/** A figure whose name comes from the pages or the owner: conversions of one kind, events of one name. */
export type NamedMeasure = `conversions:${string}` | `events:${string}`;

/** What a station or a column can show. */
export type MeasureName = UsualName | NamedMeasure;

export const usualNames = Object.keys(measures) as UsualName[];

export const isNamed = (name: string): name is NamedMeasure => /^(conversions|events):./.test(name);

/** What may stand on the line of figures that every report has: what adds up, so that its dots compare. */
export const stationNames: UsualName[] = [
  'clicks',
  'visits',
  'visitors',
  'pageViews',
  'stayed',
  'events',
  'convertingVisits',
  'conversions',
  'revenue',
  'cost',
  'shown',
  'sent',
  'delivered',
  'opened',
];

export const usualStations: MeasureName[] = ['clicks', 'visits', 'stayed', 'convertingVisits', 'revenue'];
export const usualColumns: MeasureName[] = ['visitors', 'secondsPerVisit', 'revenuePerVisit'];

export const isMeasure = (name: string): name is MeasureName => Object.hasOwn(measures, name) || isNamed(name);

/** True for what may stand on the line. */
export const isStation = (name: MeasureName): boolean => isNamed(name) || stationNames.includes(name);

/** A name's comma and per cent sign are written otherwise, since commas stand between figures. */
export const writtenName = (name: NamedMeasure): string =>
  name
    .slice(name.indexOf(':') + 1)
    .replaceAll(/%2C/gi, ',')
    .replaceAll('%25', '%');

const measureOf = (name: MeasureName): Measure =>
  isNamed(name) ? partly(writtenName(name), (f) => f.named[name] ?? 0) : measures[name];

/** What a figure is called. */
export const figureLabel = (name: MeasureName): string => measureOf(name).label;

const sums: MeasureName[] = [
  'clicks',
  'scans',
  'visits',
  'stayed',
  'bounces',
  'convertingVisits',
  'conversions',
  'verifiedConversions',
  'pageViews',
  'events',
  'shown',
  'sent',
  'delivered',
  'opened',
];

/** Whether a figure grows with every day, so that a mean of a day says something. */
export const isSum = (name: MeasureName): boolean => isNamed(name) || sums.includes(name);

const ofMoney: MeasureName[] = [
  'revenue',
  'refunds',
  'revenueGained',
  'averageOrder',
  'revenuePerVisit',
  'revenuePerVisitor',
  'cost',
  'costPerClick',
  'costPerVisit',
  'costPerConversion',
  'costPerThousandShown',
  'profit',
  'return',
];

/** True for a figure that says how much money was made. */
export const isMoney = (name: string): boolean => ofMoney.some((n) => n === name);

/** The figure of a row; the dash where the row has none. */
export const figureOf = (name: MeasureName, figures: Figures | null): string =>
  figures ? measureOf(name).says(figures) : noFigure;

/** How large a figure is; null for none. */
export const sizeOf = (name: MeasureName, figures: Figures | null | undefined): number | null =>
  figures ? measureOf(name).size(figures) : null;

/**
 * What stands between two stations: how many of the first reached the second; empty where that says nothing. The conversion
 * rate is of visits, whatever stands before it (rules, section 7).
 */
export function rateBetween(before: MeasureName, name: MeasureName, figures: Figures): string {
  if (name === 'visits' && before === 'clicks')
    return figures.visitsPerClick === null ? '' : rate(figures.visitsPerClick);
  if (name === 'stayed' && before === 'visits')
    return figures.visits === 0 ? '' : rate(figures.stayed / figures.visits);
  if (name === 'convertingVisits') return figures.conversionRate === null ? '' : rate(figures.conversionRate);
  if (name === 'revenue') return figures.averageOrder === null ? '' : `${money(figures.averageOrder)} each`;
  return '';
}

/** How a figure differs from another, in per cent of the other; empty where there is nothing to compare. */
export function difference(name: MeasureName, figures: Figures, before: Figures | null | undefined): string {
  const [now, then] = [sizeOf(name, figures), sizeOf(name, before)];
  if (now === null || then === null) return '';
  if (now === then) return now === 0 ? '' : '±0 %';
  if (then === 0) return 'new';
  const change = now / then - 1;
  return `${change > 0 ? '+' : '−'}${rate(Math.abs(change))}`;
}
