/** What rows can be made by, with the words for visits that have no such value. */
export const dimensions: Record<string, { label: string; none: string }> = {
  channel: { label: 'channel', none: 'Unsorted' },
  group: { label: 'group', none: 'Unsorted' },
  campaign: { label: 'campaign', none: 'No campaign' },
  placement: { label: 'placement', none: 'No placement' },
  set: { label: 'set of placements', none: 'No set' },
  publisher: { label: 'publisher', none: 'No publisher' },
  link: { label: 'link', none: 'No link in the Ledger' },
  source: { label: 'source', none: 'No source' },
  medium: { label: 'medium', none: 'No medium' },
  sourceMedium: { label: 'source and medium', none: 'No source and medium' },
  content: { label: 'content', none: 'No content' },
  term: { label: 'term', none: 'No term' },
  id: { label: 'id', none: 'No id' },
  typed: { label: 'typed behind the link', none: 'Nothing typed' },
  referrer: { label: 'referrer', none: 'No referrer' },
  site: { label: 'site', none: 'No site' },
  landingPage: { label: 'landing page', none: 'No page' },
  lastPage: { label: 'last page', none: 'No page' },
  country: { label: 'country', none: 'Unknown country' },
  region: { label: 'region', none: 'Unknown region' },
  town: { label: 'town', none: 'Unknown town' },
  device: { label: 'device', none: 'No device' },
  model: { label: 'model', none: 'Unknown model' },
  system: { label: 'system', none: 'Unknown system' },
  browser: { label: 'browser', none: 'Unknown browser' },
  language: { label: 'language', none: 'Unknown language' },
  visitorKind: { label: 'new or returning', none: 'Visitors without an id' },
  hour: { label: 'hour', none: 'No hour' },
  weekday: { label: 'weekday', none: 'No weekday' },
  day: { label: 'day', none: 'No day' },
  week: { label: 'week', none: 'No week' },
  month: { label: 'month', none: 'No month' },
};

export const usualRows = ['campaign', 'source', 'medium'];

/** Levels of rows at most. */
export const mostLevels = 5;

/** The rows an address asks for, each once; the usual ones where it asks for none. */
export function rowsOf(search: URLSearchParams): string[] {
  const asked = (search.get('rows') ?? '')
    .split(',')
    .filter((name, i, all) => name in dimensions && all.indexOf(name) === i);
  return asked.length ? asked.slice(0, mostLevels) : usualRows;
}

/** The condition that narrows to one row. */
export const conditionOf = (dimension: string, key: string | null): string => `${dimension}:is:${key ?? ''}`;

/** What a condition says: the dimension and the value, which may hold colons. */
export function partsOf(condition: string): { dimension: string; value: string } {
  const [dimension, , ...value] = condition.split(':');
  return { dimension: dimension!, value: value.join(':') };
}
