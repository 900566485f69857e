import { sizeOf, type Figures, type MeasureName } from './measures';

/** Radius of the largest dot of a level, in CSS pixels. */
const largest = 9;

/** Nothing that is there is drawn smaller. */
const smallest = 1.5;

/** The largest figure of each level, which the areas of its dots compare with. */
export type Scales = ReadonlyMap<number, Partial<Record<MeasureName, number>>>;

interface Sized {
  level: number;
  figures: Figures | null;
  before?: Figures | null;
}

/** The scales of rows; what is compared with counts too, so that both dots of a row fit. */
export function scalesOf(rows: readonly Sized[], stations: readonly MeasureName[]): Scales {
  const scales = new Map<number, Partial<Record<MeasureName, number>>>();
  for (const row of rows) {
    const scale = scales.get(row.level) ?? {};
    for (const station of stations)
      scale[station] = Math.max(
        scale[station] ?? 0,
        sizeOf(station, row.figures) ?? 0,
        sizeOf(station, row.before) ?? 0,
      );
    scales.set(row.level, scale);
  }
  return scales;
}

/** Radius of the dot of a figure whose area is to the largest one as the figures are; 0 for none, and under zero. */
export function radiusOf(size: number | null, most: number | undefined): number {
  if (size === null || size <= 0 || !most) return 0;
  return Math.max(smallest, largest * Math.sqrt(size / most));
}
