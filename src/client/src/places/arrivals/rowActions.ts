import type { Schema } from '../../api/client';
import { placementAddress, plannedAddress } from '../../parts/planAddress';
import { partsOf } from './conditions';
import type { Range } from './range';

type Field = Pick<Schema['FieldDocument'], 'key' | 'means'>;
type Named = { id: string; name: string };

/** The links behind visits, as a selection in the Ledger. */
export function ledgerAddress(range: Range, where: readonly string[]): string {
  const params = new URLSearchParams({ state: 'all', visitsFrom: range.from, visitsTo: range.to });
  for (const condition of where) params.append('visitsWhere', condition);
  return `/ledger?${params.toString()}`;
}

/** Values of a row by its fields; those that are compared otherwise, or are none, are left out. */
const valuesOf = (conditions: readonly string[]): Map<string, string> =>
  new Map(
    conditions
      .map(partsOf)
      .filter((p) => p !== null && p.test === 'is' && p.value !== '')
      .map((p) => [p!.field, p!.value]),
  );

/** The key of the convention's field that rows are made by; null where they are not made by one. */
function keyOf(dimension: string, fields: readonly Field[]): string | null {
  if (dimension.startsWith('field.')) return dimension.slice('field.'.length);
  const field = fields.find((f) => f.means === dimension) ?? fields.find((f) => f.key === `utm_${dimension}`);
  return field?.key ?? null;
}

/** What a campaign says is the campaign's, not the placement's. */
const ofPlacements = ['source', 'medium', 'content', 'term', 'id'];

/** The Plan with a placement begun from a row's values; null where the row has a placement, or nothing one could be made of. */
export function newPlacement(conditions: readonly string[], fields: readonly Field[]): string | null {
  const values = valuesOf(conditions);
  if (values.has('placement')) return null;
  const both = values.get('sourceMedium')?.split(' / ') ?? [];
  for (const [i, dimension] of ['source', 'medium'].entries())
    if (both[i] && both[i] !== '–' && !values.has(dimension)) values.set(dimension, both[i]);
  const defaults: Record<string, string> = {};
  for (const [dimension, value] of values) {
    const key = ofPlacements.includes(dimension) || dimension.startsWith('field.') ? keyOf(dimension, fields) : null;
    if (key) defaults[key] = value;
  }
  return Object.keys(defaults).length === 0
    ? null
    : placementAddress({
        name: values.get('source') ?? Object.values(defaults)[0],
        channel: values.get('channel'),
        publisher: values.get('publisher'),
        defaults,
      });
}

/** The row's campaign with a planned link begun in it; null where the row has no campaign of the Plan. */
export function newPlanned(
  conditions: readonly string[],
  campaigns: readonly (Named & { value: string })[],
  placements: readonly Named[],
): string | null {
  const values = valuesOf(conditions);
  const campaign = campaigns.find((c) => c.value === values.get('campaign'));
  return campaign
    ? plannedAddress(campaign.id, {
        page: values.get('landingPage'),
        placement: placements.find((p) => p.name === values.get('placement'))?.id,
        content: values.get('content'),
      })
    : null;
}

/** What of the Plan and the Ledger a row is about: where it is, and what opening it is called. */
export function planPlaces(
  conditions: readonly string[],
  campaigns: readonly (Named & { value: string })[],
  placements: readonly Named[],
): [to: string, says: string][] {
  const values = valuesOf(conditions);
  const campaign = campaigns.find((c) => c.value === values.get('campaign'));
  const placement = placements.find((p) => p.name === values.get('placement'));
  const link = values.get('link');
  return [
    ...(campaign ? [[`/plan?campaign=${campaign.id}`, `Open ${campaign.name} in the Plan`] as [string, string]] : []),
    ...(placement
      ? [[`/plan?view=placements&placement=${placement.id}`, `Open ${placement.name} in the Plan`] as [string, string]]
      : []),
    ...(link ? [[`/ledger?open=${link}`, 'Open the link’s page'] as [string, string]] : []),
  ];
}
