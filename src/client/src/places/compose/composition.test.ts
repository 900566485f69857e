import { describe, expect, it } from 'vitest';
import type { Notice } from '../../api/client';
import {
  axisKeysOf,
  cellsOf,
  filledIn,
  isAlike,
  nothing,
  repaired,
  requestOf as requestUnder,
  withCommon,
  withOverride,
  type Cell,
  type Composition,
} from './composition';

const keys = axisKeysOf([]);
const requestOf = (cell: Cell, composition: Composition) => requestUnder(cell, composition, keys);

const base: Composition = {
  ...nothing,
  pages: ['https://marrowmere.example/a', 'https://marrowmere.example/b'],
  placements: ['p1', 'p2'],
  campaign: 'c1',
  common: { utm_term: 'all' },
};

const notice = (field: string | null, value: string): Notice => ({
  rule: 'word-unknown',
  severity: 'error',
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

  it('of a page keep the slug chosen for a link of it, and leave removed ones out', () => {
    const [cell, other] = cellsOf({ ...base, placements: ['p1', 'p2'] });
    const given = {
      ...base,
      placements: ['p1', 'p2'],
      names: { [cell!.key]: { slug: 'fern', carries: true } },
      removed: [other!.key],
    };
    const mended = repaired(given, cell!, notice(null, 'https://marrowmere.example/mended'));
    expect(cellsOf(mended).filter((c) => c.page.endsWith('mended'))).toHaveLength(1);
    expect(requestOf(cellsOf(mended)[0]!, mended)).toMatchObject({
      slug: 'fern',
      carries: 'overwrite',
      placement: 'p1',
    });
  });

  it('are alike when rule, field and value are', () => {
    expect(isAlike(notice('utm_medium', 'email'), notice('utm_medium', 'email'))).toBe(true);
    expect(isAlike(notice('utm_medium', 'email'), notice('utm_medium', 'sms'))).toBe(false);
  });
});

describe('axes of one placement', () => {
  const uneven = {
    ...base,
    pages: ['/a'],
    variants: ['x'],
    ownVariants: { p1: ['q', 'r', 's'] },
    keywords: { p2: ['fern', 'moss'] },
  };

  it('gives each placement as many links as it needs', () => {
    const cells = cellsOf(uneven);
    expect(cells.map((c) => [c.placement, c.variant, c.keyword])).toEqual([
      ['p1', 'q', null],
      ['p1', 'r', null],
      ['p1', 's', null],
      ['p2', 'x', 'fern'],
      ['p2', 'x', 'moss'],
    ]);
    expect(new Set(cells.map((c) => c.key)).size).toBe(5);
    expect(requestOf(cells[4]!, uneven).fields).toEqual({ utm_content: 'x', utm_term: 'moss' });
  });
});

describe('links read back', () => {
  const read = {
    ...base,
    readLinks: [{ id: 'r1', page: 'https://marrowmere.example/old', values: { utm_source: 'trellis' } }],
  };

  it('stand beside the sentence and keep their own values', () => {
    const cell = cellsOf(read).at(-1)!;
    expect(requestOf(cell, read)).toEqual({
      destination: 'https://marrowmere.example/old',
      fields: { utm_source: 'trellis' },
    });
    const mended = repaired(read, cell, notice('utm_source', 'the_trellis'));
    expect(requestOf(cell, mended).fields).toEqual({ utm_source: 'the_trellis' });
    expect(cellsOf(repaired(read, cell, notice(null, 'https://marrowmere.example/new'))).at(-1)!.page).toBe(
      'https://marrowmere.example/new',
    );
  });
});

describe('values for many links', () => {
  it('typed for all let go of what was typed for single ones', () => {
    const [a] = cellsOf(base);
    const all = withCommon(withOverride(base, a!.key, 'utm_term', 'one'), 'utm_term', 'every');
    expect(cellsOf(all).map((c) => requestOf(c, all).fields!.utm_term)).toEqual(['every', 'every', 'every', 'every']);
  });

  it('fill only the links that lack them', () => {
    const cells = cellsOf(base);
    const some = filledIn(base, cells.slice(0, 2), 'utm_content', 'button');
    expect(cells.map((c) => requestOf(c, some).fields!.utm_content)).toEqual([
      'button',
      'button',
      undefined,
      undefined,
    ]);
    expect(filledIn(base, cells, 'utm_content', 'button').common.utm_content).toBe('button');
  });
});
