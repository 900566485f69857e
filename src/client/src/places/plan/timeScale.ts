import { addMonths, differenceInCalendarDays, format, parseISO, startOfMonth } from 'date-fns';
import { endOf, type Lasting } from '../../parts/ruler/lanes';

/** The stretch of time a time line shows: whole months. */
export interface Span {
  from: Date;
  months: number;
}

/** The span of so many months with a day in it, a third of it before the day's month. */
export function spanAround(day: string, months: number): Span {
  return { from: addMonths(startOfMonth(parseISO(day)), -Math.floor(months / 3)), months };
}

/** Where a day begins, as a fraction of the span; under 0 and over 1 outside of it. */
export function placeOf(day: string | Date, span: Span): number {
  const date = typeof day === 'string' ? parseISO(day) : day;
  const all = differenceInCalendarDays(addMonths(span.from, span.months), span.from);
  return differenceInCalendarDays(date, span.from) / all;
}

/** Left edge and width of a bar in the span; `null` when it lies outside. The last day belongs to it. */
export function barOf(thing: Lasting, span: Span): { left: number; width: number } | null {
  const left = thing.startsOn === null ? 0 : Math.max(0, placeOf(thing.startsOn, span));
  const right = thing.endsOn === null ? 1 : Math.min(1, placeOf(dayAfter(thing.endsOn), span));
  return right > 0 && left < 1 && right > left ? { left, width: right - left } : null;
}

/** The months of a span with how many things run in them at once at most. */
export function monthsOf(
  span: Span,
  things: Lasting[],
): { month: Date; left: number; width: number; atOnce: number }[] {
  return Array.from({ length: span.months }, (_, i) => {
    const month = addMonths(span.from, i);
    const left = placeOf(month, span);
    return { month, left, width: placeOf(addMonths(month, 1), span) - left, atOnce: mostAtOnce(things, month) };
  });
}

function mostAtOnce(things: Lasting[], month: Date): number {
  const first = format(month, 'yyyy-MM-dd');
  const last = format(addMonths(month, 1), 'yyyy-MM-dd');
  const here = things.filter((t) => t.startsOn !== null && t.startsOn < last && endOf(t) >= first);
  // The most run at once on some thing's first day, or on the month's own.
  const days = [first, ...here.map((t) => t.startsOn!).filter((d) => d > first)];
  return Math.max(0, ...days.map((day) => here.filter((t) => t.startsOn! <= day && endOf(t) >= day).length));
}

function dayAfter(day: string): Date {
  const date = parseISO(day);
  date.setDate(date.getDate() + 1);
  return date;
}
