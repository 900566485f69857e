import {
  addDays,
  addMonths,
  addYears,
  differenceInCalendarDays,
  endOfMonth,
  format,
  parseISO,
  startOfMonth,
  startOfYear,
} from 'date-fns';

export interface Range {
  from: string;
  to: string;
}

const iso = (date: Date): string => format(date, 'yyyy-MM-dd');

/** Spans that move with the day, by their code in the address. */
export const spans: Record<string, string> = {
  today: 'Today',
  yesterday: 'Yesterday',
  '7d': 'Last 7 days',
  '30d': 'Last 30 days',
  '90d': 'Last 90 days',
  '180d': 'Last 180 days',
  '365d': 'Last 365 days',
  month: 'This month',
  lastMonth: 'Last month',
  year: 'This year',
};

export const usualSpan = '30d';

const isDay = (text: string | null): text is string =>
  !!text && /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text));

/** The range of so many days that ends today. */
export function lastDays(days: number, today: string): Range {
  return { from: iso(addDays(parseISO(today), 1 - days)), to: today };
}

/** The days a span means today; null for a code that is none. */
export function spanRange(code: string, today: string): Range | null {
  const date = parseISO(today);
  const days = /^(\d+)d$/.exec(code);
  if (days && code in spans) return lastDays(Number(days[1]), today);
  switch (code) {
    case 'today':
      return { from: today, to: today };
    case 'yesterday': {
      const day = iso(addDays(date, -1));
      return { from: day, to: day };
    }
    case 'month':
      return { from: iso(startOfMonth(date)), to: today };
    case 'lastMonth': {
      const month = addMonths(startOfMonth(date), -1);
      return { from: iso(month), to: iso(endOfMonth(month)) };
    }
    case 'year':
      return { from: iso(startOfYear(date)), to: today };
    default:
      return null;
  }
}

/** True for a range in which visits still arrive. */
export const isOpen = (range: Range, today: string): boolean => range.to >= today;

/** How many days a range has. */
export const daysOf = (range: Range): number => differenceInCalendarDays(parseISO(range.to), parseISO(range.from)) + 1;

/** The span an address asks for by its code; null where it asks for days of its own. */
export function spanOf(search: URLSearchParams): string | null {
  const code = search.get('span');
  if (code && code in spans) return code;
  const [from, to] = [search.get('from'), search.get('to')];
  return isDay(from) && isDay(to) && from <= to ? null : usualSpan;
}

/** The range an address asks for: 30 days where it asks for none, or for one that ends before it begins. */
export function rangeOf(search: URLSearchParams, today: string): Range {
  const span = spanOf(search);
  return span ? spanRange(span, today)! : { from: search.get('from')!, to: search.get('to')! };
}

/** The span a range is compared with: `before` is as long and ends the day before, `yearBefore` has the same dates, else two days. */
export function comparedWith(compare: string, range: Range): Range | null {
  if (compare === 'before') {
    const days = daysOf(range);
    return { from: iso(addDays(parseISO(range.from), -days)), to: iso(addDays(parseISO(range.from), -1)) };
  }
  if (compare === 'yearBefore')
    return { from: iso(addYears(parseISO(range.from), -1)), to: iso(addYears(parseISO(range.to), -1)) };
  const [from = null, to = null] = compare.split(',');
  return isDay(from) && isDay(to) && from <= to ? { from, to } : null;
}
