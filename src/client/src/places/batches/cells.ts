import type { Row } from './useRows';

/** A cell of the grid; column -1 is the row as a whole. */
export interface Place {
  row: number;
  column: number;
}

/** A value in the grid, and where it came from. */
export interface Cell {
  text: string;
  from: 'typed' | 'recipe' | 'convention';
}

/** A row’s value for a target. */
export function cellOf(row: Row, key: string): Cell {
  const typed = row.overrides[key];
  if (typed !== undefined) return { text: typed, from: 'typed' };
  const asked = row.asked[key];
  return asked ? { text: asked, from: 'recipe' } : { text: row.values[key] ?? '', from: 'convention' };
}
