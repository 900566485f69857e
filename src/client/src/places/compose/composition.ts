import type { ComposeRequest, Notice } from '../../api/client';

/** What the sentence says: who is sent where, for what, saying what. */
export interface Composition {
  pages: string[];
  placements: string[];
  campaign: string;
  /** Contents of the variants; none means one link for each placement with its own content. */
  variants: string[];
  /** Values typed for all links, by key. */
  common: Record<string, string>;
  /** Values typed for one link, by its cell and then by key. */
  overrides: Record<string, Record<string, string>>;
  /** Cells taken out by hand. */
  removed: string[];
}

/** One link of the grid. */
export interface Cell {
  key: string;
  page: string;
  placement: string;
  variant: string | null;
}

const contentKey = 'utm_content';

/** Pages × placements × variants, without the cells taken out. A single link is a grid of one. */
export function cellsOf(composition: Composition): Cell[] {
  const placements = composition.placements.length ? composition.placements : [''];
  const variants = composition.variants.length ? composition.variants : [null];
  return composition.pages
    .filter((page) => page.trim() !== '')
    .flatMap((page) =>
      placements.flatMap((placement) =>
        variants.map((variant) => ({ key: JSON.stringify([page, placement, variant]), page, placement, variant })),
      ),
    )
    .filter((cell) => !composition.removed.includes(cell.key));
}

/** What the server is asked to work out for a cell; an override goes before what was typed for all. */
export function requestOf(cell: Cell, composition: Composition): ComposeRequest {
  return {
    destination: cell.page,
    campaign: composition.campaign || null,
    placement: cell.placement || null,
    fields: {
      ...composition.common,
      ...(cell.variant === null ? {} : { [contentKey]: cell.variant }),
      ...composition.overrides[cell.key],
    },
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

/** The composition with a notice's repair done for a cell. */
export function repaired(composition: Composition, cell: Cell, notice: Notice): Composition {
  if (!notice.repair) return composition;
  const { field, value } = notice.repair;
  if (field !== null) return withOverride(composition, cell.key, field, value);
  const moved = Object.fromEntries(
    Object.entries(composition.overrides).map(([key, values]) => {
      const [page, placement, variant] = JSON.parse(key) as [string, string, string | null];
      return [page === cell.page ? JSON.stringify([value, placement, variant]) : key, values];
    }),
  );
  return { ...composition, pages: composition.pages.map((p) => (p === cell.page ? value : p)), overrides: moved };
}

/** True when two notices are mended by the same stroke. */
export function isAlike(a: Notice, b: Notice): boolean {
  return a.rule === b.rule && a.field === b.field && a.repair?.value === b.repair?.value;
}
