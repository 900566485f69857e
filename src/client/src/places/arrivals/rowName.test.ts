import { describe, expect, it } from 'vitest';
import { rowName } from './rowName';

describe('a row', () => {
  it.each([
    ['source', null, 'No source'],
    ['source', 'the_trellis', 'the_trellis'],
    ['attribute.season', null, 'No season'],
    ['country', 'IE', 'Ireland'],
    ['country', '??', '??'],
    ['language', 'ga', 'Irish'],
    ['hour', '7', '07:00'],
    ['weekday', '1', 'Monday'],
    ['weekday', '7', 'Sunday'],
    ['day', '2026-11-29', '29 Nov 2026'],
    ['week', '2026-11-23', 'week of 23 Nov 2026'],
    ['month', '2026-11-01', 'November 2026'],
  ])('of %s %s is called %s', (dimension, key, name) => expect(rowName(dimension, key)).toBe(name));

  it('is called by its name where the key is an id', () =>
    expect(rowName('link', '7', { '7': 'Header button' })).toBe('Header button'));
});
