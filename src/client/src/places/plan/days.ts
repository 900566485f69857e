/** Weekdays as they are written short, Monday first as ISO 8601 counts them. */
export const dayNames = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su'] as const;

/** Days of use in words; numbers by ISO 8601, none for every day. */
export function daysOf(days: number[]): string {
  if (days.length === 0 || days.length === 7) return 'every day';
  if (days.join() === '1,2,3,4,5') return 'weekdays';
  if (days.join() === '6,7') return 'weekends';
  return days.map((day) => dayNames[day - 1]).join(', ');
}
