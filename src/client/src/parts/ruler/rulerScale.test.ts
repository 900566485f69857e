import { describe, expect, it } from 'vitest';
import {
  daysBetween,
  edgesOf,
  extentOf,
  firstDayOf,
  moved,
  placeOf,
  plus,
  stretched,
  ticksOf,
  unitsOf,
  within,
} from './rulerScale';

const today = '2026-11-29';

describe('a ruler', () => {
  it('shows single days around a month, up to today', () => {
    const extent = extentOf({ from: '2026-10-31', to: today }, null, today);
    expect(extent).toEqual({ from: '2026-08-02', to: today, unit: 'day' });
    expect(unitsOf(extent)).toHaveLength(120);
  });

  it('shows weeks for what is longer, and months for years', () => {
    const year = extentOf({ from: '2025-11-30', to: today }, null, today);
    expect(year.unit).toBe('week');
    expect(firstDayOf('week', year.from)).toBe(year.from);
    expect(extentOf({ from: '2022-01-01', to: today }, null, today).unit).toBe('month');
  });

  it('has room for what the range is compared with', () => {
    const extent = extentOf({ from: '2026-11-01', to: today }, { from: '2026-07-01', to: '2026-07-29' }, today);
    expect(extent.from).toBe('2026-07-01');
  });

  it('ends soon after a range that lies years back', () => {
    const extent = extentOf({ from: '2023-01-01', to: '2023-01-31' }, null, today);
    expect(extent.to).toBe('2023-03-03');
  });

  it('places days within their units', () => {
    const extent = { from: '2026-11-02', to: '2026-11-15', unit: 'week' } as const;
    const units = unitsOf(extent);
    expect(units).toEqual(['2026-11-02', '2026-11-09']);
    expect(placeOf('2026-11-02', extent, units)).toBe(0);
    expect(placeOf('2026-11-09', extent, units)).toBe(0.5);
    expect(placeOf('2026-11-16', extent, units)).toBeGreaterThan(1);
    expect(edgesOf({ from: null, to: '2026-11-08' }, extent, units)).toEqual({ left: 0, right: 0.5 });
    expect(edgesOf({ from: '2026-12-01', to: null }, extent, units)).toBeNull();
    expect(edgesOf({ from: '2026-10-01', to: '2026-10-20' }, extent, units)).toBeNull();
  });

  it('has labels that keep a distance', () => {
    const extent = extentOf({ from: '2026-10-31', to: today }, null, today);
    expect(ticksOf(extent, unitsOf(extent)).map((t) => t.says)).toEqual(['1 Sep', '1 Oct', '1 Nov']);
    const long = extentOf({ from: '2016-01-01', to: today }, null, today);
    expect(ticksOf(long, unitsOf(long)).length).toBeLessThanOrEqual(13);
  });
});

describe('what is dragged over it', () => {
  it('is whole units, in either direction', () => {
    expect(daysBetween('day', '2026-11-05', '2026-11-02', today)).toEqual({ from: '2026-11-02', to: '2026-11-05' });
    expect(daysBetween('week', '2026-11-02', '2026-11-09', today)).toEqual({ from: '2026-11-02', to: '2026-11-15' });
    expect(daysBetween('month', '2026-11-01', '2026-11-01', today)).toEqual({ from: '2026-11-01', to: today });
  });

  it('moves as a whole and never beyond today', () => {
    expect(moved({ from: '2026-11-01', to: '2026-11-10' }, 'day', -1, today)).toEqual({
      from: '2026-10-31',
      to: '2026-11-09',
    });
    expect(moved({ from: '2026-11-01', to: '2026-11-28' }, 'week', 1, today)).toEqual({
      from: '2026-11-02',
      to: today,
    });
    expect(moved({ from: '2026-11-01', to: today }, 'day', 1, today)).toEqual({ from: '2026-11-01', to: today });
  });

  it('is stretched at its end, down to one day', () => {
    expect(stretched({ from: '2026-11-01', to: '2026-11-10' }, 'day', 1, today).to).toBe('2026-11-11');
    expect(stretched({ from: '2026-11-01', to: '2026-11-02' }, 'week', -1, today).to).toBe('2026-11-01');
    expect(stretched({ from: '2026-11-01', to: today }, 'week', 1, today).to).toBe(today);
  });
});

describe('hours', () => {
  const extent = { from: '2026-03-28', to: '2026-03-29', unit: 'hour' } as const;
  const units = unitsOf(extent);

  it('are 24 of every day, whatever the clock does', () => {
    expect([units.length, units[0], units[23], units[24], units.at(-1)]).toEqual([
      48,
      '2026-03-28T00:00',
      '2026-03-28T23:00',
      '2026-03-29T00:00',
      '2026-03-29T23:00',
    ]);
    expect(plus('hour', '2026-03-28T23:00', 2)).toBe('2026-03-29T01:00');
    expect(plus('hour', '2026-03-29T00:00', -1)).toBe('2026-03-28T23:00');
  });

  it('have days as their edges', () => {
    expect(edgesOf({ from: '2026-03-29', to: '2026-03-29' }, extent, units)).toEqual({ left: 0.5, right: 1 });
    expect(daysBetween('hour', '2026-03-29T05:00', '2026-03-28T20:00', today)).toEqual({
      from: '2026-03-28',
      to: '2026-03-29',
    });
    expect(ticksOf(extent, units).map((t) => t.says)).toEqual([
      '28 Mar',
      '06:00',
      '12:00',
      '18:00',
      '29 Mar',
      '06:00',
      '12:00',
      '18:00',
    ]);
  });
});

it('covers a range and nothing around it', () => {
  expect(within({ from: '2026-11-03', to: '2026-11-20' })).toEqual({
    from: '2026-11-03',
    to: '2026-11-20',
    unit: 'day',
  });
  expect(within({ from: '2026-01-01', to: '2026-11-25' })).toEqual({
    from: '2025-12-29',
    to: '2026-11-29',
    unit: 'week',
  });
});
