import { addDays, format, parseISO } from 'date-fns';

export interface Range {
  from: string;
  to: string;
}

export const presets = [
  { name: '7 days', days: 7 },
  { name: '30 days', days: 30 },
  { name: '90 days', days: 90 },
  { name: '180 days', days: 180 },
] as const;

const isDay = (text: string | null): text is string =>
  !!text && /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text));

/** The range of so many days that ends today. */
export function lastDays(days: number, today: string): Range {
  return { from: format(addDays(parseISO(today), 1 - days), 'yyyy-MM-dd'), to: today };
}

/** True for a range in which visits still arrive. */
export const isOpen = (range: Range, today: string): boolean => range.to >= today;

/** The range an address asks for: 30 days where it asks for none, or for one that ends before it begins. */
export function rangeOf(search: URLSearchParams, today: string): Range {
  const from = search.get('from');
  const to = search.get('to');
  return isDay(from) && isDay(to) && from <= to ? { from, to } : lastDays(30, today);
}
