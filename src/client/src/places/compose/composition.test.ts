import { describe, expect, it } from 'vitest';
import type { Notice } from '../../api/client';
import { cellsOf, isAlike, repaired, requestOf, withOverride, type Composition } from './composition';

const base: Composition = {
  pages: ['https://marrowmere.example/a', 'https://marrowmere.example/b'],
  placements: ['p1', 'p2'],
  campaign: 'c1',
  variants: [],
  common: { utm_term: 'all' },
  overrides: {},
  removed: [],
};

const notice = (field: string | null, value: string): Notice => ({
  rule: 'word-unknown',
  severity: 'stop',
  field,
  message: '',
  repair: { field, value, says: 'Use it' },
});

describe('cells', () => {
  it('are pages × placements × variants', () => {
    expect(cellsOf({ ...base, variants: ['x', 'y', 'z'] })).toHaveLength(12);
    expect(cellsOf({ ...base, placements: [] })).toHaveLength(2);
    expect(cellsOf({ ...base, pages: ['', '  '] })).toHaveLength(0);
  });

  it('can be taken out one by one', () => {
    const first = cellsOf(base)[0]!;
    const left = cellsOf({ ...base, removed: [first.key] });
    expect(left).toHaveLength(3);
    expect(left).not.toContainEqual(first);
  });
});

describe('requests', () => {
  it('let an override go before the variant, and the variant before what was typed for all', () => {
    const cell = cellsOf({ ...base, variants: ['banner_a'] })[0]!;
    expect(requestOf(cell, base).fields).toEqual({ utm_term: 'all', utm_content: 'banner_a' });
    const overridden = withOverride(base, cell.key, 'utm_content', 'mine');
    expect(requestOf(cell, overridden).fields).toEqual({ utm_term: 'all', utm_content: 'mine' });
    expect(requestOf(cell, withOverride(overridden, cell.key, 'utm_content', undefined)).fields).toEqual(
      requestOf(cell, base).fields,
    );
  });

  it('change for one cell only', () => {
    const [one, other] = cellsOf(base);
    const changed = withOverride(base, one!.key, 'utm_medium', 'email');
    expect(requestOf(other!, changed)).toEqual(requestOf(other!, base));
  });
});

describe('repairs', () => {
  it('of a field stay in their cell', () => {
    const [one, other] = cellsOf(base);
    const mended = repaired(base, one!, notice('utm_medium', 'email'));
    expect(requestOf(one!, mended).fields?.utm_medium).toBe('email');
    expect(requestOf(other!, mended).fields?.utm_medium).toBeUndefined();
  });

  it('of a page keep what was typed for its links', () => {
    const cell = cellsOf(base)[0]!;
    const typed = withOverride(base, cell.key, 'utm_medium', 'email');
    const mended = repaired(typed, cell, notice(null, 'https://marrowmere.example/mended'));
    const moved = cellsOf(mended)[0]!;
    expect(moved.page).toBe('https://marrowmere.example/mended');
    expect(requestOf(moved, mended).fields?.utm_medium).toBe('email');
  });

  it('are alike when rule, field and value are', () => {
    expect(isAlike(notice('utm_medium', 'email'), notice('utm_medium', 'email'))).toBe(true);
    expect(isAlike(notice('utm_medium', 'email'), notice('utm_medium', 'sms'))).toBe(false);
  });
});
