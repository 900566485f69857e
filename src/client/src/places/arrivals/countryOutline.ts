import { geoArea, geoCentroid, geoMercator, geoPath } from 'd3-geo';
import { feature } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';
import { alpha2, mapSize } from './worldMap';

/** Degrees north and east. */
export interface Point {
  latitude: number;
  longitude: number;
}

/** A country with what lies around it, as large as the map allows. */
export interface CountryOutline {
  /** An SVG path of each country in sight, within {@link mapSize}; the one asked for comes last. */
  paths: { code: string | null; path: string }[];
  /** Where a place is on the map. */
  place: (point: Point) => [number, number];
}

const margin = 24;

/** The largest of a country's lands: what lies overseas would leave the rest of it small. */
function mainland(country: GeoJSON.Geometry): GeoJSON.Geometry {
  if (country.type !== 'MultiPolygon') return country;
  const lands = country.coordinates.map((coordinates): GeoJSON.Polygon => ({ type: 'Polygon', coordinates }));
  return lands.reduce((most, land) => (geoArea(land) > geoArea(most) ? land : most));
}

/**
 * Draws a country and its neighbours (public domain, 1:50 million) in Mercator's projection, which keeps the shape of small places; null
 * where it has no outline. Towns that lie outside its largest land have room too.
 */
export async function countryOutline(code: string, towns: readonly Point[]): Promise<CountryOutline | null> {
  const { default: atlas } = await import('world-atlas/countries-50m.json');
  const world = atlas as unknown as Topology<{ countries: GeometryCollection }>;
  const codeOf = (id: unknown) => alpha2.get(String(id)) ?? null;
  const lands = feature(world, world.objects.countries).features.map((f) => ({
    code: codeOf(f.id),
    shape: f.geometry,
  }));
  const asked = lands.find((l) => l.code === code);
  if (!asked) return null;
  const main = mainland(asked.shape);
  const shown: GeoJSON.GeometryCollection = {
    type: 'GeometryCollection',
    geometries: [main, { type: 'MultiPoint', coordinates: towns.map((t) => [t.longitude, t.latitude]) }],
  };
  const projection = geoMercator()
    .rotate([-geoCentroid(main)[0], 0])
    .fitExtent(
      [
        [margin, margin],
        [mapSize.width - margin, mapSize.height - margin],
      ],
      shown,
    )
    .clipExtent([
      [-1, -1],
      [mapSize.width + 1, mapSize.height + 1],
    ]);
  const path = geoPath(projection).digits(1);
  return {
    paths: [...lands.filter((l) => l !== asked), asked]
      .map((l) => ({ code: l.code, path: path(l.shape) ?? '' }))
      .filter((l) => l.path !== ''),
    place: ({ latitude, longitude }) => projection([longitude, latitude]) ?? [-1, -1],
  };
}

/** A town's dot on the map. */
export interface Dot {
  key: string;
  x: number;
  y: number;
  radius: number;
}

const largest = 16;
const smallest = 2;
/** About the width of a letter, and the height of a line, of the labels. */
const letter = 6.2;
const line = 13;

/** Radius of a dot whose area is to the largest one's as the figures are. */
export const townRadius = (size: number, most: number): number =>
  size <= 0 || most <= 0 ? 0 : Math.max(smallest, largest * Math.sqrt(size / most));

/**
 * Which dots, the largest first, have room for their name to their right: no name is written over another one or over a larger dot.
 */
export function labelled(dots: readonly (Dot & { name: string })[], most: number): string[] {
  const taken: [number, number, number, number][] = [];
  const free = ([left, top, right, bottom]: [number, number, number, number]) =>
    right <= mapSize.width && taken.every((t) => right <= t[0] || left >= t[2] || bottom <= t[1] || top >= t[3]);
  const named: string[] = [];
  for (const dot of dots) {
    const left = dot.x + dot.radius + 3;
    const box: [number, number, number, number] = [
      left,
      dot.y - line / 2,
      left + letter * dot.name.length,
      dot.y + line / 2,
    ];
    if (named.length < most && free(box)) {
      named.push(dot.key);
      taken.push(box);
    }
    taken.push([dot.x - dot.radius, dot.y - dot.radius, dot.x + dot.radius, dot.y + dot.radius]);
  }
  return named;
}
