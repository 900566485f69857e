import { describe, expect, it } from 'vitest';
import { boundsOf, mapSize, shadeOf, worldShapes } from './worldMap';

describe('the map', () => {
  it('has countries of the world by their code, within its size', () => {
    const shapes = worldShapes();
    const codes = shapes.map((s) => s.code);
    for (const code of ['IE', 'GB', 'DE', 'US', 'BR', 'IN', 'JP', 'ZA', 'NZ']) expect(codes).toContain(code);
    expect(codes).not.toContain('AQ');
    expect(new Set(codes.filter(Boolean)).size).toBe(codes.filter(Boolean).length);
    const numbers = shapes.flatMap((s) => [...s.path.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)].map((m) => [+m[1]!, +m[2]!]));
    expect(Math.max(...numbers.map((n) => n[0]!))).toBeLessThanOrEqual(mapSize.width);
    expect(Math.max(...numbers.map((n) => n[1]!))).toBeLessThanOrEqual(mapSize.height);
    expect(Math.min(...numbers.map((n) => Math.min(n[0]!, n[1]!)))).toBeGreaterThanOrEqual(0);
  });

  it('shades countries so that one large one leaves the others apart', () => {
    const bounds = boundsOf([1, 2, 3, 4, 5, 6, 7, 8, 9, 10_000]);
    expect(bounds).toEqual([2, 4, 6, 8, 10_000]);
    expect([0, 1, 2, 3, 8, 9, 10_000].map((n) => shadeOf(n, bounds))).toEqual([0, 1, 1, 2, 4, 5, 5]);
  });

  it('shades a single country most', () => {
    const bounds = boundsOf([7]);
    expect(bounds).toEqual([7]);
    expect(shadeOf(7, bounds)).toBe(5);
    expect(boundsOf([])).toEqual([]);
    expect(shadeOf(0, [])).toBe(0);
  });
});
