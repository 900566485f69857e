import type { ComposeRequest, FieldAnswer, Notice } from '../../api/client';

/** What is chosen for one link besides its fields. */
export interface CellName {
  title?: string;
  slug?: string;
  /** Slug of the link in the QR code. */
  codeSlug?: string;
  carries?: boolean;
}

/** A link that was read back and stands beside the sentence, with its values. */
export interface ReadLink {
  id: string;
  page: string;
  values: Record<string, string>;
}

/** What the sentence says: who is sent where, for what, saying what. */
export interface Composition {
  pages: string[];
  placements: string[];
  campaign: string;
  /** Contents of the variants; none means one link for each placement with its own content. */
  variants: string[];
  /** Contents of one placement's variants, which stand in place of the common ones; by placement. */
  ownVariants: Record<string, string[]>;
  /** Keywords of one placement, each with links of its own; by placement. */
  keywords: Record<string, string[]>;
  /** Links read back, one cell each. */
  readLinks: ReadLink[];
  /** Values typed for all links, by key. */
  common: Record<string, string>;
  /** Values typed for one link, by its cell and then by key. */
  overrides: Record<string, Record<string, string>>;
  /** Titles and slugs chosen for one link, and whether its short link carries parameters through, by its cell. */
  names: Record<string, CellName>;
  /** Short domain of all short links; empty for the workspace's first. */
  shortDomain: string;
  /** Cells taken out by hand. */
  removed: string[];
}

/** A composition that says nothing yet. */
export const nothing: Composition = {
  pages: [],
  placements: [],
  campaign: '',
  variants: [],
  ownVariants: {},
  keywords: {},
  readLinks: [],
  common: {},
  overrides: {},
  names: {},
  shortDomain: '',
  removed: [],
};

/** One link of the grid. */
export interface Cell {
  key: string;
  page: string;
  placement: string;
  variant: string | null;
  keyword: string | null;
  /** Values it was read back with; `null` for cells of the sentence. */
  read: Record<string, string> | null;
}

/** Keys of the fields that variants and keywords are written into. */
export interface AxisKeys {
  content: string;
  term: string;
}

/** The keys under the convention that holds. */
export function axisKeysOf(fields: FieldAnswer[]): AxisKeys {
  return {
    content: fields.find((f) => f.means === 'content')?.key ?? 'utm_content',
    term: fields.find((f) => f.means === 'term')?.key ?? 'utm_term',
  };
}

/**
 * Pages × placements × variants × keywords, each placement with as many of them as it has, and after them the links
 * read back; without the cells taken out. A single link is a grid of one.
 */
export function cellsOf(composition: Composition): Cell[] {
  const placements = composition.placements.length ? composition.placements : [''];
  const made = composition.pages
    .filter((page) => page.trim() !== '')
    .flatMap((page) =>
      placements.flatMap((placement) => {
        const own = composition.ownVariants[placement];
        return orNone(own?.length ? own : composition.variants).flatMap((variant) =>
          orNone(composition.keywords[placement] ?? []).map((keyword): Cell => {
            const parts = keyword === null ? [page, placement, variant] : [page, placement, variant, keyword];
            return { key: JSON.stringify(parts), page, placement, variant, keyword, read: null };
          }),
        );
      }),
    );
  const read = composition.readLinks.map((link): Cell => {
    return { key: link.id, page: link.page, placement: '', variant: null, keyword: null, read: link.values };
  });
  return [...made, ...read].filter((cell) => !composition.removed.includes(cell.key));
}

const orNone = (texts: string[]): (string | null)[] => (texts.length ? texts : [null]);

/** What the server is asked to work out for a cell; an override goes before what was typed for all. */
export function requestOf(cell: Cell, composition: Composition, keys: AxisKeys): ComposeRequest {
  const name = composition.names[cell.key];
  const named = {
    ...(name?.title ? { title: name.title } : {}),
    ...(name?.slug ? { slug: name.slug } : {}),
    ...(name?.codeSlug ? { codeSlug: name.codeSlug } : {}),
    ...(name?.carries ? { carries: 'overwrite' as const } : {}),
    ...(composition.shortDomain ? { shortDomain: composition.shortDomain } : {}),
  };
  if (cell.read)
    return { destination: cell.page, fields: { ...cell.read, ...composition.overrides[cell.key] }, ...named };
  return {
    destination: cell.page,
    campaign: composition.campaign || null,
    placement: cell.placement || null,
    fields: {
      ...composition.common,
      ...(cell.variant === null ? {} : { [keys.content]: cell.variant }),
      ...(cell.keyword === null ? {} : { [keys.term]: cell.keyword }),
      ...composition.overrides[cell.key],
    },
    ...named,
  };
}

/** The composition with one value typed for one cell; `undefined` takes the override away again. */
export function withOverride(
  composition: Composition,
  cell: string,
  key: string,
  value: string | undefined,
): Composition {
  const { [key]: _, ...others } = composition.overrides[cell] ?? {};
  const cellOverrides = value === undefined ? others : { ...others, [key]: value };
  return { ...composition, overrides: { ...composition.overrides, [cell]: cellOverrides } };
}

/** The composition with one value typed for all links; what was typed for single ones under that key is let go. */
export function withCommon(composition: Composition, key: string, value: string): Composition {
  const overrides = Object.fromEntries(
    Object.entries(composition.overrides).map(([cell, { [key]: _, ...others }]) => [cell, others]),
  );
  return { ...composition, common: { ...composition.common, [key]: value }, overrides };
}

/** The composition with a value filled into the cells that lack it: for all where it is all of them. */
export function filledIn(composition: Composition, lacking: Cell[], key: string, value: string): Composition {
  const all = cellsOf(composition);
  return lacking.length === all.length && lacking.every((c) => !c.read)
    ? withCommon(composition, key, value)
    : lacking.reduce((c, cell) => withOverride(c, cell.key, key, value), composition);
}

/** The composition with a notice's repair done for a cell. */
export function repaired(composition: Composition, cell: Cell, notice: Notice): Composition {
  if (!notice.repair) return composition;
  const { field, value } = notice.repair;
  if (field !== null) return withOverride(composition, cell.key, field, value);
  if (cell.read)
    return {
      ...composition,
      readLinks: composition.readLinks.map((link) => (link.id === cell.key ? { ...link, page: value } : link)),
    };
  // What belongs to the page's cells goes with them: values and names typed, and that one was removed.
  const keyOf = (key: string): string => {
    if (!key.startsWith('[')) return key;
    const [page, ...others] = JSON.parse(key) as [string, ...unknown[]];
    return page === cell.page ? JSON.stringify([value, ...others]) : key;
  };
  const moved = <T>(byCell: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(byCell).map(([key, of]) => [keyOf(key), of]));
  return {
    ...composition,
    pages: composition.pages.map((p) => (p === cell.page ? value : p)),
    overrides: moved(composition.overrides),
    names: moved(composition.names),
    removed: composition.removed.map(keyOf),
  };
}

/** True when two notices are repaired by the same change. */
export function isAlike(a: Notice, b: Notice): boolean {
  return a.rule === b.rule && a.field === b.field && a.repair?.value === b.repair?.value;
}
