import { describe, expect, it } from 'vitest';
import { lanesOf } from '../../parts/ruler/lanes';
import { barOf, monthsOf, placeOf, spanAround } from './timeScale';

const year = { from: new Date(2026, 0, 1), months: 12 };
const thing = (startsOn: string | null, endsOn: string | null) => ({ startsOn, endsOn });

describe('the time line', () => {
  it('shows whole months around a day', () => {
    expect(spanAround('2026-11-25', 12).from).toEqual(new Date(2026, 6, 1));
    expect(spanAround('2026-01-31', 3).from).toEqual(new Date(2025, 11, 1));
  });

  it('places days by their number, over leap days and changes of the clock', () => {
    expect(placeOf('2026-01-01', year)).toBe(0);
    expect(placeOf('2026-07-02', year)).toBeCloseTo(182 / 365, 10);
    expect(placeOf('2028-03-01', { from: new Date(2028, 0, 1), months: 12 })).toBeCloseTo(60 / 366, 10);
    expect(placeOf('2027-01-01', year)).toBe(1);
  });

  it('draws the last day too, and cuts at the edges', () => {
    expect(barOf(thing('2026-01-01', '2026-01-01'), year)).toEqual({ left: 0, width: 1 / 365 });
    expect(barOf(thing('2025-06-01', '2027-06-01'), year)).toEqual({ left: 0, width: 1 });
    expect(barOf(thing('2027-01-01', null), year)).toBeNull();
    expect(barOf(thing('2025-01-01', '2025-12-31'), year)).toBeNull();
    expect(barOf(thing(null, null), year)).toEqual({ left: 0, width: 1 });
  });

  it('puts what overlaps into lanes of its own', () => {
    const a = thing('2026-01-01', '2026-01-31');
    const b = thing('2026-01-31', '2026-02-10');
    const c = thing('2026-02-01', '2026-02-02');
    expect(lanesOf([b, c, a])).toEqual([[a, c], [b]]);
  });

  it('counts how many run at once in a month', () => {
    const things = [
      thing('2026-01-01', '2026-01-10'),
      thing('2026-01-10', '2026-02-01'),
      thing('2026-01-11', null),
      thing(null, null),
    ];
    expect(
      monthsOf(year, things)
        .slice(0, 3)
        .map((m) => m.atOnce),
    ).toEqual([2, 2, 1]);
  });
});
