/** What rows can be made by, with the words for visits that have no such value. */
export const dimensions: Record<string, { label: string; none: string }> = {
  channel: { label: 'channel', none: 'Unsorted' },
  group: { label: 'group', none: 'Unsorted' },
  campaign: { label: 'campaign', none: 'No campaign' },
  source: { label: 'source', none: 'No source' },
  medium: { label: 'medium', none: 'No medium' },
  content: { label: 'content', none: 'No content' },
  term: { label: 'term', none: 'No term' },
  id: { label: 'id', none: 'No id' },
  referrer: { label: 'referrer', none: 'No referrer' },
  page: { label: 'landing page', none: 'No page' },
  device: { label: 'device', none: 'No device' },
};

export const usualRows = ['campaign', 'source', 'medium'];

/** The rows an address asks for, each once; the usual ones where it asks for none. */
export function rowsOf(search: URLSearchParams): string[] {
  const asked = (search.get('rows') ?? '')
    .split(',')
    .filter((name, i, all) => name in dimensions && all.indexOf(name) === i);
  return asked.length ? asked.slice(0, 3) : usualRows;
}

/** The condition that narrows to one row. */
export const conditionOf = (dimension: string, key: string | null): string => `${dimension}:${key ?? ''}`;
