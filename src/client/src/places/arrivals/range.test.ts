import { describe, expect, it } from 'vitest';
import cases from './spans.json';
import { comparedWith, daysOf, isOpen, lastDays, rangeOf, spanOf, spanRange } from './range';

const today = '2026-03-31';
const of = (address: string) => new URLSearchParams(address);

describe('a range', () => {
  it('is 30 days where the address asks for none, or for none that can be', () => {
    expect(rangeOf(of(''), today)).toEqual({ from: '2026-03-02', to: today });
    expect(rangeOf(of('from=2026-03-05&to=2026-03-01'), today)).toEqual(lastDays(30, today));
    expect(rangeOf(of('from=today&to=2026-03-01'), today)).toEqual(lastDays(30, today));
    expect(spanOf(of('span=always'))).toBe('30d');
  });

  it('is the days asked for', () => {
    expect(rangeOf(of('from=2026-01-01&to=2026-01-31'), today)).toEqual({ from: '2026-01-01', to: '2026-01-31' });
    expect(spanOf(of('from=2026-01-01&to=2026-01-31'))).toBeNull();
    expect(daysOf({ from: '2026-01-01', to: '2026-01-31' })).toBe(31);
  });

  it.each(cases)('of $code on $today moves with the day, as on the server', ({ code, today: on, from, to }) => {
    expect(spanRange(code, on)).toEqual(from === null ? null : { from, to });
  });

  it('still fills while today is in it', () => {
    expect(isOpen({ from: today, to: today }, today)).toBe(true);
    expect(isOpen({ from: '2026-03-01', to: '2026-03-30' }, today)).toBe(false);
  });

  it.each([
    ['before', '2026-03-10', '2026-03-16', '2026-03-03', '2026-03-09'],
    ['yearBefore', '2024-02-29', '2024-03-03', '2023-02-28', '2023-03-03'],
    ['2025-01-01,2025-01-31', '2026-03-10', '2026-03-16', '2025-01-01', '2025-01-31'],
  ])('is compared with %s', (compare, from, to, first, last) => {
    expect(comparedWith(compare, { from, to })).toEqual({ from: first, to: last });
  });

  it('is compared with nothing else', () => {
    expect(comparedWith('2025-02-01,2025-01-31', { from: today, to: today })).toBeNull();
    expect(comparedWith('campaigns:a,b', { from: today, to: today })).toBeNull();
  });
});
