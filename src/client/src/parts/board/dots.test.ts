import { describe, expect, it } from 'vitest';
import { radiusOf, scalesOf } from './dots';
import { figures } from './measures.test';

describe('a dot', () => {
  it('has an area that compares with the largest of its level', () => {
    expect(radiusOf(100, 100)).toBe(9);
    expect(radiusOf(25, 100)).toBeCloseTo(4.5);
    expect((radiusOf(50, 100) / radiusOf(100, 100)) ** 2).toBeCloseTo(0.5);
  });

  it('is there for the smallest figure, and not for none', () => {
    expect(radiusOf(1, 1_000_000)).toBe(1.5);
    expect(radiusOf(0, 100)).toBe(0);
    expect(radiusOf(-5, 100)).toBe(0);
    expect(radiusOf(null, 100)).toBe(0);
    expect(radiusOf(5, undefined)).toBe(0);
  });

  it('compares rows of one level alone, and what they are compared with', () => {
    const scales = scalesOf(
      [
        { level: 1, figures, before: { ...figures, visits: 5_000 } },
        { level: 1, figures: { ...figures, visits: 300 } },
        { level: 2, figures: { ...figures, visits: 20 } },
        { level: 2, figures: null },
      ],
      ['visits'],
    );
    expect(scales.get(1)).toEqual({ visits: 5_000 });
    expect(scales.get(2)).toEqual({ visits: 20 });
  });
});
