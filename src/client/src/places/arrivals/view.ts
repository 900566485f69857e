import { isMeasure, isStation, usualColumns, usualStations, type MeasureName } from '../../parts/board/measures';
import { creditOf, type Credit } from './credit';
import { mostSteps } from './steps';
import { rowsOf } from './dimensions';
import { rangeOf, spanOf, type Range } from './range';

/** What Arrivals shows; its address is all of it. */
export interface View {
  range: Range;
  /** Code of a span that moves with the day; null for days of its own. */
  span: string | null;
  /** `before`, `yearBefore`, two days or campaigns; empty for nothing. */
  compare: string;
  rows: string[];
  where: string[];
  stations: MeasureName[];
  columns: MeasureName[];
  /** A measure or `key`, with `-` in front for the largest first; null for the order rows have by themselves. */
  sort: string | null;
  search: string;
  credit: Credit | null;
  /** The steps of a way, as calls have them. */
  steps: string[];
  page: number;
  size: number;
  part: Part;
  plain: boolean;
  tall: boolean;
}

export const parts = {
  board: 'Rows',
  visits: 'Visits',
  pages: 'Pages',
  products: 'Products',
  paths: 'Paths',
  steps: 'Steps',
  spots: 'Spots',
  postings: 'Postings',
  map: 'Map',
} as const;

export type Part = keyof typeof parts;

export const sizes = [25, 50, 100, 500, 5_000];
const usualSize = 50;

const list = (text: string | null, usual: MeasureName[], allowed: (name: MeasureName) => boolean): MeasureName[] =>
  text === null
    ? usual
    : text.split(',').filter((n, i, all): n is MeasureName => isMeasure(n) && allowed(n) && all.indexOf(n) === i);

/** The view an address asks for; what it asks for wrongly is as if it were not there. */
export function viewOf(search: URLSearchParams, today: string): View {
  const sort = search.get('sort');
  const size = Number(search.get('size'));
  const page = Number(search.get('page'));
  const part = search.get('part') as Part | null;
  const stations = list(search.get('stations'), usualStations, isStation);
  return {
    range: rangeOf(search, today),
    span: spanOf(search),
    compare: search.get('compare') ?? '',
    rows: rowsOf(search),
    where: search.getAll('where'),
    stations: stations.length ? stations : usualStations,
    columns: list(search.get('columns'), usualColumns, () => true),
    sort: sort && (isMeasure(sort.replace(/^-/, '')) || sort.replace(/^-/, '') === 'key') ? sort : null,
    search: search.get('search') ?? '',
    credit: creditOf(search),
    steps: search.getAll('step').slice(0, mostSteps),
    page: Number.isInteger(page) && page > 0 ? page : 1,
    size: sizes.includes(size) ? size : usualSize,
    part: part && part in parts ? part : 'board',
    plain: search.get('plain') === '1',
    tall: search.get('tall') === '1',
  };
}

/** The figures a view shows or goes by, as calls name them. */
export const measuresOf = (view: View): string =>
  [...new Set([...view.stations, ...view.columns, 'visits', 'conversionRate'])].join(',');
