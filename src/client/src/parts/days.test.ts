import { expect, it } from 'vitest';
import { dayOf, readDay, readTime } from './days';

it.each([
  ['2026-12-03', '2026-12-03'],
  ['20261203', '2026-12-03'],
  ['3 Dec 2026', '2026-12-03'],
  ['03 dec 2026', '2026-12-03'],
  [' 3   December 2026 ', '2026-12-03'],
  ['Dec 3, 2026', '2026-12-03'],
  ['December 3, 2026', '2026-12-03'],
  ['3.12.2026', '2026-12-03'],
  ['03.12.2026', '2026-12-03'],
  ['29 Feb 2028', '2028-02-29'],
  ['29 Feb 2027', null],
  ['31.4.2026', null],
  // Which is the month? People disagree, so nobody is guessed for.
  ['3/12/2026', null],
  ['12-03-2026', null],
  ['3 Dec 26', null],
  ['3 Dec', null],
  ['soon', null],
  ['', null],
])('reads “%s” as %s', (text, day) => expect(readDay(text)).toBe(day));

it('reads back what it writes, on every day of four years', () => {
  for (let day = Date.UTC(2025, 0, 1); day < Date.UTC(2029, 0, 1); day += 86_400_000) {
    const iso = new Date(day).toISOString().slice(0, 10);
    expect(readDay(dayOf(iso))).toBe(iso);
  }
});

it.each([
  ['18:30', '18:30'],
  ['8.05', '08:05'],
  ['9', '09:00'],
  ['0:00', '00:00'],
  ['24:00', null],
  ['12:60', null],
  ['noon', null],
])('reads the time “%s” as %s', (text, time) => expect(readTime(text)).toBe(time));
