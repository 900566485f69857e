import { describe, expect, it } from 'vitest';
import { present } from './present';

const now = Date.parse('2026-11-29T12:00:00Z');
const visit = (source: string | null, minutesAgo: number, seconds = 0) =>
  ({ source, startedAt: new Date(now - minutesAgo * 60_000).toISOString(), seconds }) as never;

describe('who is there', () => {
  it('is counted by source, the most first', () =>
    expect(present([visit('mail', 1), visit('poster', 2), visit('poster', 4), visit(null, 0)], now)).toEqual([
      { source: 'poster', visits: 2 },
      { source: 'mail', visits: 1 },
      { source: 'no source', visits: 1 },
    ]));

  it('counts from the last thing that was heard, not from the first', () =>
    expect(present([visit('mail', 20, 16 * 60), visit('poster', 20, 60)], now)).toEqual([
      { source: 'mail', visits: 1 },
    ]));
});
