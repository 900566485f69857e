import { describe, expect, it } from 'vitest';
import { lastDays, rangeOf, isOpen } from './range';

const today = '2026-03-01';

describe('ranges', () => {
  it('of so many days include today', () => {
    expect(lastDays(1, today)).toEqual({ from: today, to: today });
    expect(lastDays(30, today)).toEqual({ from: '2026-01-31', to: today });
  });

  it.each([
    '',
    'from=2026-02-02',
    'from=2026-02-02&to=2026-02-01',
    'from=x&to=2026-02-02',
    'from=2026-13-40&to=2026-14-01',
  ])('fall back to 30 days for “%s”', (search) => {
    expect(rangeOf(new URLSearchParams(search), today)).toEqual(lastDays(30, today));
  });

  it('are taken from the address', () => {
    expect(rangeOf(new URLSearchParams('from=2026-01-01&to=2026-02-01'), today)).toEqual({
      from: '2026-01-01',
      to: '2026-02-01',
    });
  });
});

describe('a range', () => {
  it('is open until it ends', () => {
    expect(isOpen({ from: '2026-11-01', to: '2026-11-29' }, '2026-11-29')).toBe(true);
    expect(isOpen({ from: '2026-11-01', to: '2026-11-28' }, '2026-11-29')).toBe(false);
  });
});
