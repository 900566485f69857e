interface Narrowed {
  /** What visits are narrowed to: a field and its value. */
  where: readonly (readonly [field: string, value: string])[];
  rows?: readonly string[];
  /** Code of a span; half a year where it is left out, so that a thing that is over still shows. */
  span?: string;
}

/** The address of Arrivals narrowed to one thing. */
export function arrivalsAddress({ where, rows, span = '180d' }: Narrowed): string {
  const params = new URLSearchParams({ span });
  if (rows) params.set('rows', rows.join(','));
  for (const [field, value] of where) params.append('where', `${field}:is:${value}`);
  return `/arrivals?${params.toString()}`;
}

const standard = ['source', 'medium', 'campaign', 'content', 'term', 'id'];

/** What rows are made by for a field of the convention. */
export const dimensionOf = ({ key, means }: { key: string; means: string }): string =>
  means !== 'byKey' ? means : (standard.find((name) => key === `utm_${name}`) ?? `field.${key}`);
