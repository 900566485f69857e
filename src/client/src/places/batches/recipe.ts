import type { FieldAnswer, Schema } from '../../api/client';

export type Recipe = Schema['Recipe'];
export type CellSource = NonNullable<Schema['CellSource']>;

/** Something a recipe feeds: the page, the placement, the campaign, or a field by its key. */
export interface Target {
  key: string;
  label: string;
  /** What stands there where nothing feeds it. */
  otherwise: string;
}

const titleKey = 'linkTitle';

/** Everything a recipe can feed, in the order of the sentence. */
export function targetsOf(fields: FieldAnswer[]): Target[] {
  return [
    { key: 'destination', label: 'Page', otherwise: 'choose a column' },
    { key: 'placement', label: 'Placement', otherwise: 'none' },
    { key: 'campaign', label: 'Campaign', otherwise: 'none' },
    { key: titleKey, label: 'Link title', otherwise: 'composed' },
    ...fields
      .filter((f) => f.kind === 'text' || f.kind === 'date')
      .map((f) => ({
        key: f.key,
        // A field that is called like the campaign itself is the tag that is written.
        label: f.label === 'Campaign' || f.label === 'Placement' || f.label === 'Page' ? `${f.label} tag` : f.label,
        otherwise: f.means === 'campaign' ? 'from the campaign' : 'from the placement',
      })),
  ];
}

/** Page, placement and campaign, and every field the recipe feeds. */
export function shownTargets(recipe: Recipe, fields: FieldAnswer[]): Target[] {
  const always = ['destination', 'placement', 'campaign'];
  return targetsOf(fields).filter((t) => always.includes(t.key) || sourceOf(recipe, t.key) !== null);
}

/** What feeds a target; `null` where nothing does. */
export function sourceOf(recipe: Recipe, key: string): CellSource | null {
  if (key === titleKey) return recipe.title ?? null;
  if (key === 'destination' || key === 'placement' || key === 'campaign') return recipe[key] ?? null;
  return (recipe.fields ?? {})[key] ?? null;
}

/** The recipe with a target fed by something else; `null` takes it away. */
export function withSource(recipe: Recipe, key: string, source: CellSource | null): Recipe {
  if (key === titleKey) return { ...recipe, title: source };
  if (key === 'destination' || key === 'placement' || key === 'campaign') return { ...recipe, [key]: source };
  const fields: Record<string, CellSource> = recipe.fields ?? {};
  const { [key]: _, ...others } = fields;
  return { ...recipe, fields: source ? { ...others, [key]: source } : others };
}

/** What feeds a target, as one kind and one text. */
export function partsOf(source: CellSource | null): { kind: 'none' | 'column' | 'value' | 'text'; text: string } {
  if (!source) return { kind: 'none', text: '' };
  if (source.column != null) return { kind: 'column', text: source.column };
  if (source.text != null) return { kind: 'text', text: source.text };
  return { kind: 'value', text: source.value ?? '' };
}
