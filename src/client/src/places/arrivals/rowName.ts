import { format, parseISO } from 'date-fns';
import { dayOf } from '../../parts/days';
import { noneOf } from './dimensions';

// The 1st of January 2024 was a Monday.
const weekdays = Array.from({ length: 7 }, (_, i) => format(new Date(2024, 0, 1 + i), 'EEEE'));

/** The key of costs that have no value for a row, such as an imported cost by device. */
export const notBrokenDown = '\u001fnot-broken-down';

/**
 * What a row is called.
 * @param key As the server answers it; null where visits have no such value.
 * @param names What keys are called, where that is not the key itself.
 */
export function rowName(dimension: string, key: string | null, names?: Record<string, string>): string {
  if (key === null) return noneOf(dimension);
  if (key === notBrokenDown) return 'Not broken down';
  switch (dimension) {
    case 'country':
      return nameOf('region', key);
    case 'language':
      return nameOf('language', key);
    case 'visitorKind':
      return key === 'new' ? 'New visitors' : 'Returning visitors';
    case 'hour':
      return `${key.padStart(2, '0')}:00`;
    case 'weekday':
      return weekdays[Number(key) - 1] ?? key;
    case 'day':
      return dayOf(key);
    case 'week':
      return `week of ${dayOf(key)}`;
    case 'month':
      return format(parseISO(key), 'MMMM yyyy');
    default:
      return names?.[key] ?? key;
  }
}

function nameOf(type: 'region' | 'language', code: string): string {
  try {
    return new Intl.DisplayNames('en', { type }).of(code) ?? code;
  } catch {
    return code; // not of the shape such a code has
  }
}
