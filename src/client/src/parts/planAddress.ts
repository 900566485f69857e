/** The address of the Plan with a new placement begun in it. */
export function placementAddress(begun: {
  name?: string;
  channel?: string;
  publisher?: string;
  defaults: Record<string, string>;
}): string {
  const params = new URLSearchParams({ view: 'placements', placement: 'new' });
  for (const part of ['name', 'channel', 'publisher'] as const) if (begun[part]) params.set(part, begun[part]);
  for (const [key, value] of Object.entries(begun.defaults)) params.append('value', `${key}=${value}`);
  return `/plan?${params.toString()}`;
}

/** What an address says of a new placement. */
export function placementBegun(search: URLSearchParams) {
  return {
    name: search.get('name') ?? '',
    begun: {
      channel: search.get('channel') ?? '',
      publisher: search.get('publisher'),
      defaults: Object.fromEntries(
        search.getAll('value').map((pair) => [pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1)]),
      ) as Record<string, string>,
    },
  };
}

/** The address of a campaign's page with a planned link begun in it. */
export function plannedAddress(
  campaign: string,
  begun: { page?: string; placement?: string; content?: string },
): string {
  const params = new URLSearchParams({ campaign, plan: '1' });
  for (const [name, value] of Object.entries(begun)) if (value) params.set(name, value);
  return `/plan?${params.toString()}`;
}

/** The planned link an address begins; null for none. */
export const plannedBegun = (search: URLSearchParams) =>
  search.get('plan')
    ? {
        id: null,
        page: search.get('page') ?? '',
        placementId: search.get('placement'),
        content: search.get('content'),
      }
    : null;
