import { geoNaturalEarth1, geoPath } from 'd3-geo';
import { feature } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';
import codes from 'i18n-iso-countries/codes.json';
import atlas from 'world-atlas/countries-110m.json';

/** A country's outline on the map. */
export interface CountryShape {
  /** ISO 3166-1 alpha-2; null for land that has none. */
  code: string | null;
  /** An SVG path within {@link mapSize}. */
  path: string;
}

/** Width and height of the map, in units of its paths. */
export const mapSize = { width: 960, height: 470 };

/** Alpha-2 codes by numeric ones (ISO 3166-1), as the outlines have them. */
export const alpha2 = new Map((codes as string[][]).map(([two, , numeric]) => [numeric!, two!]));

/** Outlines of the countries of the world (public domain, 1:110 million), Antarctica left out. */
export function worldShapes(): CountryShape[] {
  const world = atlas as unknown as Topology<{ countries: GeometryCollection }>;
  const land = feature(world, world.objects.countries);
  const inhabited = { ...land, features: land.features.filter((f) => String(f.id) !== '010') };
  const path = geoPath(
    geoNaturalEarth1().fitExtent(
      [
        [2, 2],
        [mapSize.width - 2, mapSize.height - 2],
      ],
      inhabited,
    ),
  ).digits(1);
  return inhabited.features.map((f) => ({ code: alpha2.get(String(f.id)) ?? null, path: path(f) ?? '' }));
}

/** Shades of a figure, from few to most. */
export const shades = 5;

/**
 * Upper bounds of the shades: each holds about as many of the countries that have a figure, so that one large country does not
 * leave all others pale.
 */
export function boundsOf(figures: readonly number[]): number[] {
  const sorted = figures.filter((n) => n > 0).sort((a, b) => a - b);
  if (sorted.length === 0) return [];
  const bounds = Array.from(
    { length: shades },
    (_, i) => sorted[Math.min(sorted.length - 1, Math.ceil(((i + 1) * sorted.length) / shades) - 1)]!,
  );
  return bounds.filter((bound, i) => i === 0 || bound > bounds[i - 1]!);
}

/** The shade of a figure, from 1; 0 for none. */
export const shadeOf = (figure: number, bounds: readonly number[]): number =>
  figure <= 0 ? 0 : bounds.findIndex((bound) => figure <= bound) + 1 + (shades - bounds.length);
