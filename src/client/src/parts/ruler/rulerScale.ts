import {
  addDays,
  addMonths,
  addWeeks,
  differenceInCalendarDays,
  differenceInCalendarMonths,
  differenceInCalendarWeeks,
  format,
  parseISO,
  startOfMonth,
  startOfWeek,
} from 'date-fns';

/** Days from one to another, both belonging to it, as `yyyy-mm-dd`. */
export interface Days {
  from: string;
  to: string;
}

/** What a bar of the ruler stands for. */
export type Unit = 'hour' | 'day' | 'week' | 'month';

/** The stretch of time a ruler shows, in whole units. */
export interface Extent extends Days {
  unit: Unit;
}

/** A ruler shows so many days at least. */
const fewest = 120;
const mostSingleDays = 200;
const mostWeeks = 1_400;

const iso = (date: Date): string => format(date, 'yyyy-MM-dd');
const lengthOf = (days: Days): number => differenceInCalendarDays(parseISO(days.to), parseISO(days.from)) + 1;
const earlier = (one: string, other: string): string => (one < other ? one : other);
const later = (one: string, other: string): string => (one > other ? one : other);

const hoursADay = 24;

/** An hour of a day; the clock's, so that every day has 24 of them. */
const hourOf = (day: string, hour: number): string => `${day}T${String(hour).padStart(2, '0')}:00`;

/** First day, or hour, of the unit a day is in; weeks begin on Monday (ISO 8601). */
export function firstDayOf(unit: Unit, day: string): string {
  if (unit === 'hour') return day.length > 10 ? hourOf(day.slice(0, 10), Number(day.slice(11, 13))) : hourOf(day, 0);
  const date = parseISO(day);
  return unit === 'day' ? day : iso(unit === 'week' ? startOfWeek(date, { weekStartsOn: 1 }) : startOfMonth(date));
}

/** The first day, or hour, so many units after another one's. */
export function plus(unit: Unit, day: string, units: number): string {
  const date = parseISO(day.slice(0, 10));
  if (unit === 'hour') {
    const hours = (day.length > 10 ? Number(day.slice(11, 13)) : 0) + units;
    const days = Math.floor(hours / hoursADay);
    return hourOf(iso(addDays(date, days)), hours - days * hoursADay);
  }
  return iso(unit === 'day' ? addDays(date, units) : unit === 'week' ? addWeeks(date, units) : addMonths(date, units));
}

/** What a ruler shows for a range: room before it, up to today unless that is far off, and what it is compared with. */
export function extentOf(range: Days, compared: Days | null, today: string): Extent {
  const length = lengthOf(range);
  const away = differenceInCalendarDays(parseISO(today), parseISO(range.to));
  const to = later(range.to, away > Math.max(365, 2 * length) ? iso(addDays(parseISO(range.to), length)) : today);
  const room = iso(addDays(parseISO(to), 1 - Math.max(fewest, Math.ceil(1.6 * length))));
  const from = earlier(earlier(room, range.from), compared?.from ?? room);
  const days = lengthOf({ from, to });
  const unit: Unit = days <= mostSingleDays ? 'day' : days <= mostWeeks ? 'week' : 'month';
  const first = firstDayOf(unit, from);
  return { from: first, to: iso(addDays(parseISO(plus(unit, firstDayOf(unit, to), 1)), -1)), unit };
}

/** An extent of a range and nothing around it. */
export function within(range: Days): Extent {
  const days = lengthOf(range);
  const unit: Unit = days <= mostSingleDays ? 'day' : days <= mostWeeks ? 'week' : 'month';
  return {
    from: firstDayOf(unit, range.from),
    to: iso(addDays(parseISO(plus(unit, firstDayOf(unit, range.to), 1)), -1)),
    unit,
  };
}

/** First days of the units of an extent, in order. */
export function unitsOf(extent: Extent): string[] {
  const [from, to] = [parseISO(extent.from), parseISO(extent.to)];
  const count =
    1 +
    (extent.unit === 'hour'
      ? hoursADay * (differenceInCalendarDays(to, from) + 1) - 1
      : extent.unit === 'day'
        ? differenceInCalendarDays(to, from)
        : extent.unit === 'week'
          ? differenceInCalendarWeeks(to, from, { weekStartsOn: 1 })
          : differenceInCalendarMonths(to, from));
  const first = firstDayOf(extent.unit, extent.from);
  return Array.from({ length: count }, (_, i) => plus(extent.unit, first, i));
}

/** Where a day begins, as a fraction of the extent's units; under 0 and over 1 outside of it. */
export function placeOf(day: string, extent: Extent, units: readonly string[]): number {
  const first = firstDayOf(extent.unit, day);
  const at = units.indexOf(first);
  if (at < 0) return day < extent.from ? -1 / units.length : 1 + 1 / units.length;
  if (extent.unit === 'hour') return at / units.length;
  const next = plus(extent.unit, first, 1);
  const within =
    differenceInCalendarDays(parseISO(day), parseISO(first)) /
    differenceInCalendarDays(parseISO(next), parseISO(first));
  return (at + within) / units.length;
}

/** Left and right edge of days on the extent, cut to it; null where they lie outside. */
export function edgesOf(
  days: { from: string | null; to: string | null },
  extent: Extent,
  units: readonly string[],
): { left: number; right: number } | null {
  const left = days.from === null ? 0 : placeOf(days.from, extent, units);
  const right = days.to === null ? 1 : placeOf(plus('day', days.to, 1), extent, units);
  return right <= 0 || left >= 1 ? null : { left: Math.max(0, left), right: Math.min(1, right) };
}

/** The days of whole units from one to another, whichever is first, not beyond today. */
export function daysBetween(unit: Unit, one: string, other: string, today: string): Days {
  const [first, last] = (one <= other ? [one, other] : [other, one]).map((unit) => unit.slice(0, 10)) as [
    string,
    string,
  ];
  if (unit === 'hour') return { from: first, to: later(first, earlier(last, today)) };
  const to = earlier(plus('day', plus(unit, firstDayOf(unit, last), 1), -1), later(today, first));
  return { from: first, to: later(to, first) };
}

/** About how many days a step of a unit moves a range by. */
const daysIn = (unit: Unit): number => (unit === 'week' ? 7 : unit === 'month' ? 30 : 1);

/** The range some units earlier or later, as long as before and not beyond today. */
export function moved(range: Days, unit: Unit, units: number, today: string): Days {
  const days = daysIn(unit) * units;
  const shift = Math.min(days, Math.max(0, differenceInCalendarDays(parseISO(today), parseISO(range.to))));
  return { from: plus('day', range.from, shift), to: plus('day', range.to, shift) };
}

/** The range with its last day some units earlier or later; at least one day, and not beyond today. */
export function stretched(range: Days, unit: Unit, units: number, today: string): Days {
  const days = daysIn(unit) * units;
  return { from: range.from, to: later(range.from, earlier(plus('day', range.to, days), later(today, range.to))) };
}

/** First days with a label of their own, so that labels keep a distance: the first of months, or of years. */
export function ticksOf(extent: Extent, units: readonly string[]): { day: string; says: string }[] {
  if (extent.unit === 'hour') {
    const every = units.length > 3 * hoursADay ? hoursADay : 6;
    return units
      .filter((_, i) => i % every === 0)
      .map((hour) => ({
        day: hour,
        says: hour.endsWith('T00:00') ? format(parseISO(hour.slice(0, 10)), 'd MMM') : hour.slice(11),
      }));
  }
  const months = new Set<string>();
  for (const unit of units) months.add(firstDayOf('month', unit));
  const all = [...months].filter((m) => m >= extent.from);
  const every = Math.ceil(all.length / 13);
  return all
    .filter((_, i) => i % every === 0)
    .map((day) => ({ day, says: format(parseISO(day), extent.unit === 'day' ? 'd MMM' : 'MMM yyyy') }));
}
