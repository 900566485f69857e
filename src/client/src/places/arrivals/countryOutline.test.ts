import { describe, expect, it } from 'vitest';
import { countryOutline, labelled, townRadius } from './countryOutline';
import { mapSize } from './worldMap';

const numbersOf = (path: string) =>
  [...path.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)].map((m) => [Number(m[1]), Number(m[2])] as const);

describe('a country on the map', () => {
  it('fills it, with its neighbours around it and its towns where they lie', async () => {
    const outline = (await countryOutline('IE', []))!;
    expect(outline.paths.at(-1)!.code).toBe('IE');
    expect(outline.paths.map((p) => p.code)).toContain('GB');
    expect(outline.paths.map((p) => p.code)).not.toContain('JP');
    const ys = numbersOf(outline.paths.at(-1)!.path).map((n) => n[1]);
    expect(Math.max(...ys) - Math.min(...ys)).toBeGreaterThan(mapSize.height * 0.8);
    const [dublin, galway, cork] = [
      { latitude: 53.35, longitude: -6.26 },
      { latitude: 53.27, longitude: -9.05 },
      { latitude: 51.9, longitude: -8.47 },
    ].map((p) => outline.place(p));
    expect(dublin![0]).toBeGreaterThan(galway![0]);
    expect(cork![1]).toBeGreaterThan(galway![1]);
    expect(Math.abs(dublin![1] - galway![1])).toBeLessThan(20);
  });

  it('is as large as its largest land allows, and gives room to towns overseas', async () => {
    const size = (path: string) => {
      const xs = numbersOf(path).map((n) => n[0]);
      return Math.max(...xs) - Math.min(...xs);
    };
    const near = (await countryOutline('FR', []))!;
    expect(size(near.paths.at(-1)!.path)).toBeGreaterThan(300);
    const island = { latitude: -21.1, longitude: 55.5 };
    const far = (await countryOutline('FR', [island]))!;
    const [x, y] = far.place(island);
    expect(x).toBeGreaterThan(0);
    expect(x).toBeLessThan(mapSize.width);
    expect(y).toBeLessThan(mapSize.height);
  });

  it('is not torn where the date changes', async () => {
    const outline = (await countryOutline('NZ', []))!;
    const xs = numbersOf(outline.paths.at(-1)!.path).map((n) => n[0]);
    expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(mapSize.width);
    expect(await countryOutline('XX', [])).toBeNull();
  });
});

it('dots are to each other as the figures are, and none is lost', () => {
  expect(townRadius(100, 100)).toBe(16);
  expect(townRadius(25, 100)).toBe(8);
  expect(townRadius(1, 10_000)).toBe(2);
  expect(townRadius(0, 100)).toBe(0);
});

it('names stand where they cover nothing', () => {
  const dot = (key: string, x: number, y: number, radius = 4) => ({ key, name: key, x, y, radius });
  expect(
    labelled([dot('large', 100, 100, 16), dot('beside', 120, 102), dot('free', 300, 300), dot('edge', 955, 200)], 9),
  ).toEqual(['large', 'free']);
  expect(labelled([dot('a', 1, 1), dot('b', 1, 100), dot('c', 1, 200)], 2)).toEqual(['a', 'b']);
});
