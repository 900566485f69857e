import { format, isValid, parse } from 'date-fns';

/** How days are written wherever they are typed: ISO 8601, in words, or with dots, where the day is first everywhere. */
const forms = ['yyyy-MM-dd', 'yyyyMMdd', 'd MMM yyyy', 'd MMMM yyyy', 'MMM d, yyyy', 'MMMM d, yyyy', 'd.M.yyyy'];

/** A day as people read it, such as 3 Dec 2026. */
export const dayOf = (day: string): string => format(new Date(`${day}T12:00`), 'd MMM yyyy');

/**
 * The day that a text means, as ISO 8601; null for none. `3/12/2026` is none: half the world reads 3 December and half
 * 12 March.
 */
export function readDay(text: string): string | null {
  const bare = text.trim().replace(/\s+/g, ' ');
  for (const form of forms) {
    const day = parse(bare, form, new Date(2000, 0, 1, 12));
    if (isValid(day) && day.getFullYear() >= 1900 && day.getFullYear() < 2200) return format(day, 'yyyy-MM-dd');
  }
  return null;
}

/** The time of day that a text means, as HH:mm; null for none. */
export function readTime(text: string): string | null {
  const read = /^(\d{1,2})(?:[:.](\d{2}))?$/.exec(text.trim());
  if (!read) return null;
  const [hour, minute] = [Number(read[1]), Number(read[2] ?? 0)];
  return hour < 24 && minute < 60 ? `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}` : null;
}
