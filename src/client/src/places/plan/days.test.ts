import { expect, it } from 'vitest';
import { daysOf } from './days';

it.each([
  [[], 'every day'],
  [[1, 2, 3, 4, 5, 6, 7], 'every day'],
  [[1, 2, 3, 4, 5], 'weekdays'],
  [[6, 7], 'weekends'],
  [[4, 5], 'Th, Fr'],
])('days %j are called %s', (days, says) => expect(daysOf(days)).toBe(says));
