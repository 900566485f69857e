import type { Schema } from '../../api/client';

interface Dimension {
  label: string;
  none: string;
}

const ofVisits: Record<string, Dimension> = {
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

/** What is also told of the first visit known of a visitor with an id. */
const first = ['channel', 'campaign', 'placement', 'source', 'medium', 'sourceMedium', 'content', 'term', 'referrer'];

/** What rows can be made by, with the words for visits that have no such value. */
export const dimensions: Record<string, Dimension> = {
  ...ofVisits,
  ...Object.fromEntries(
    first.map((name) => [
      `first.${name}`,
      { label: `first ${ofVisits[name]!.label}`, none: `${ofVisits[name]!.none}, or no visitor id` },
    ]),
  ),
};

/** Dimensions as they are chosen, under headings. */
export const dimensionGroups: { label: string; names: string[] }[] = [
  { label: 'What was planned', names: ['channel', 'group', 'campaign', 'placement', 'set', 'publisher', 'link'] },
  {
    label: 'What the links say',
    names: ['source', 'medium', 'sourceMedium', 'content', 'term', 'id', 'typed', 'referrer'],
  },
  { label: 'Where visitors came from first', names: first.map((name) => `first.${name}`) },
  { label: 'Pages', names: ['site', 'landingPage', 'lastPage'] },
  { label: 'People', names: ['country', 'region', 'town', 'visitorKind', 'language'] },
  { label: 'Devices', names: ['device', 'model', 'system', 'browser'] },
  { label: 'Time', names: ['hour', 'weekday', 'day', 'week', 'month'] },
];

/** Names of a workspace's own: an attribute of campaigns, a field of the convention, a part of a composed one. */
const ownKinds = ['attribute', 'field', 'part'];

export const usualRows = ['campaign', 'source', 'medium'];

/** Levels of rows at most. */
export const mostLevels = 5;

/** Whether rows can be made by it; whether a workspace has a field of its own is for the server to know. */
export const isDimension = (name: string): boolean => {
  const dot = name.indexOf('.');
  return name in dimensions || (dot > 0 && ownKinds.includes(name.slice(0, dot)) && name.length > dot + 1);
};

/** The rows an address asks for, each once; the usual ones where it asks for none. */
export function rowsOf(search: URLSearchParams): string[] {
  const asked = (search.get('rows') ?? '')
    .split(',')
    .filter((name, i, all) => isDimension(name) && all.indexOf(name) === i);
  return asked.length ? asked.slice(0, mostLevels) : usualRows;
}

/** A dimension of the workspace's own, and what it is called. */
export interface OwnDimension {
  name: string;
  label: string;
}

/** The workspace's own dimensions: attributes of campaigns, fields without a place of their own, and parts of composed names. */
export function ownDimensions(
  attributes: readonly { name: string }[],
  fields: readonly Schema['FieldDocument'][],
): OwnDimension[] {
  return [
    ...attributes.map((a) => ({ name: `attribute.${a.name}`, label: a.name })),
    ...fields
      .filter((f) => f.means === 'byKey' && f.key)
      .map((f) => ({ name: `field.${f.key}`, label: f.label ?? f.key! })),
    ...fields.flatMap((f) =>
      (f.pattern?.parts ?? []).map((part, i) => ({
        name: `part.${f.key}.${i + 1}`,
        label: `${f.label}, part ${i + 1}${part.of ? ` (${part.of})` : ''}`,
      })),
    ),
  ];
}

/** What a dimension is called. */
export const labelOf = (name: string, own: readonly OwnDimension[] = []): string =>
  dimensions[name]?.label ?? own.find((o) => o.name === name)?.label ?? name.slice(name.indexOf('.') + 1);

/** What visits without a value of it are called. */
export const noneOf = (name: string): string =>
  dimensions[name]?.none ?? `No ${name.slice(name.indexOf('.') + 1).replaceAll('_', ' ')}`;
