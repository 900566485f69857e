import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';
import { attributesQuery } from '../../api/queries';

/** The value a campaign would have; `asked` is the request as JSON. */
export const campaignPreviewQuery = (asked: string) =>
  queryOptions({
    queryKey: ['campaign-preview', asked],
    queryFn: async () =>
      dataOf(await api.POST('/api/v1/campaigns/preview', { body: JSON.parse(asked) as Schema['CampaignRequest'] })),
  });

/** A campaign with its plan and results. */
export const campaignQuery = (id: string) =>
  queryOptions({
    queryKey: ['campaign', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns/{id}', { params: { path: { id } } })),
  });

/** Budgets of campaigns beside what they cost, by the campaign's id. */
export const campaignBudgetsQuery = () =>
  queryOptions({
    queryKey: ['campaigns', 'budgets'],
    queryFn: async () =>
      Object.fromEntries(dataOf(await api.GET('/api/v1/campaigns/budgets')).map((b) => [b.campaign, b.budget])),
  });

/** Partner pages, newest first. */
export const partnerPagesQuery = () =>
  queryOptions({
    queryKey: ['partner-pages'],
    queryFn: async () => dataOf(await api.GET('/api/v1/partner-pages')),
  });

/** Default values that follow from name, channel and publisher; `asked` is the question as JSON. */
export const placementDefaultsQuery = (asked: string) =>
  queryOptions({
    queryKey: ['placement-defaults', asked],
    queryFn: async () =>
      dataOf(
        await api.GET('/api/v1/placements/defaults', {
          params: { query: JSON.parse(asked) as { name?: string; channel?: string; publisher?: string } },
        }),
      ).defaults,
  });

const campaigns = ['campaigns'];
const placements = ['placements'];
const placementSets = ['placement-sets'];

/** Changes a campaign, or makes one. */
export const campaignSave = (id: string | undefined) =>
  mutationOptions({
    mutationFn: async (body: Schema['CampaignRequest']) =>
      dataOf(
        id
          ? await api.PUT('/api/v1/campaigns/{id}', { params: { path: { id } }, body })
          : await api.POST('/api/v1/campaigns', { body }),
      ),
    meta: { outdates: [campaigns, ...(id ? [campaignQuery(id).queryKey] : [])] },
  });

/** Archives a campaign, or brings it back. */
export const campaignArchive = (id: string) =>
  mutationOptions({
    mutationFn: async (away: boolean) =>
      dataOf(
        away
          ? await api.POST('/api/v1/campaigns/{id}/archive', { params: { path: { id } } })
          : await api.POST('/api/v1/campaigns/{id}/restore', { params: { path: { id } } }),
      ),
    meta: { outdates: [campaigns, campaignQuery(id).queryKey] },
  });

/** Deletes a campaign without links. */
export const campaignDelete = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/campaigns/{id}', { params: { path: { id } } })),
    meta: { outdates: [campaigns] },
  });

/** Makes next season’s campaign from this one. */
export const nextSeasonMake = (id: string) =>
  mutationOptions({
    mutationFn: async (body: Schema['NextSeasonRequest']) =>
      dataOf(await api.POST('/api/v1/campaigns/{id}/next-season', { params: { path: { id } }, body })),
    meta: { outdates: [campaigns] },
  });

/** Changes which attributes campaigns can have. */
export const attributesChange = () =>
  mutationOptions({
    mutationFn: async (body: Schema['AttributeAnswer'][]) =>
      dataOf(await api.PUT('/api/v1/campaign-attributes', { body })),
    meta: { outdates: [attributesQuery().queryKey] },
  });

/** A change of a campaign’s plan: rows as they are now, and the ids of rows that go. */
export interface PlanChange {
  rows?: Schema['PlannedRow'][];
  removed?: string[];
}

/** Writes rows of a campaign’s plan, as it was at that revision. */
export const writePlan = async (id: string, change: PlanChange, revision: number) =>
  dataOf(
    await api.PUT('/api/v1/campaigns/{id}/planned', {
      params: { path: { id } },
      body: { rows: change.rows ?? [], removed: change.removed ?? [], revision },
    }),
  );

/** Makes links of what is planned; `again` also where one is there already. */
export const plannedMake = (id: string) =>
  mutationOptions({
    mutationFn: async (again: boolean) =>
      dataOf(await api.POST('/api/v1/campaigns/{id}/planned/make', { params: { path: { id } }, body: { again } })),
    meta: { outdates: [campaigns, ['links']] },
  });

/** Reads a sheet of planned links; nothing is written yet. */
export const planSheetRead = (id: string) =>
  mutationOptions({
    mutationFn: async (sheet: File) =>
      dataOf<Schema['PlanSheetRead']>(
        await api.POST('/api/v1/campaigns/{id}/planned/read-sheet', {
          params: { path: { id } },
          body: sheet as never,
          bodySerializer: (body: unknown) => body as Blob,
          headers: { 'Content-Type': 'application/octet-stream' },
        } as never),
      ),
  });

/** Reads the pages of a site from its sitemap. */
export const sitemapRead = () =>
  mutationOptions({
    mutationFn: async (site: string) =>
      dataOf(await api.POST('/api/v1/sites/{id}/read-sitemap', { params: { path: { id: site } } })),
    meta: { outdates: [['pages']] },
  });

/** Adds pages from lines of address and title. */
export const pagesAdd = () =>
  mutationOptions({
    mutationFn: async (text: string) => dataOf(await api.POST('/api/v1/pages', { body: { text } })),
    meta: { outdates: [['pages']] },
  });

/** Removes a page. */
export const pageRemove = () =>
  mutationOptions({
    mutationFn: async (id: string) => dataOf(await api.DELETE('/api/v1/pages/{id}', { params: { path: { id } } })),
    meta: { outdates: [['pages']] },
  });

/** Makes a page for a partner. */
export const partnerPageMake = () =>
  mutationOptions({
    mutationFn: async (body: Schema['PartnerPageRequest']) => dataOf(await api.POST('/api/v1/partner-pages', { body })),
    meta: { outdates: [partnerPagesQuery().queryKey] },
  });

/** Closes a partner’s page. */
export const partnerPageRevoke = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.POST('/api/v1/partner-pages/{id}/revoke', { params: { path: { id } } })),
    meta: { outdates: [partnerPagesQuery().queryKey] },
  });

/** Changes a placement, or makes one. */
export const placementSave = (id: string | undefined) =>
  mutationOptions({
    mutationFn: async (body: Schema['PlacementRequest']) =>
      dataOf(
        id
          ? await api.PUT('/api/v1/placements/{id}', { params: { path: { id } }, body })
          : await api.POST('/api/v1/placements', { body }),
      ),
    meta: { outdates: [placements] },
  });

/** Retires a placement, or brings it back. */
export const placementRetire = (id: string) =>
  mutationOptions({
    mutationFn: async (away: boolean) =>
      dataOf(
        away
          ? await api.POST('/api/v1/placements/{id}/retire', { params: { path: { id } } })
          : await api.POST('/api/v1/placements/{id}/restore', { params: { path: { id } } }),
      ),
    meta: { outdates: [placements, placementSets] },
  });

/** Moves a placement’s links to another one. */
export const placementMerge = (id: string) =>
  mutationOptions({
    mutationFn: async (into: string) =>
      dataOf(await api.POST('/api/v1/placements/{id}/merge', { params: { path: { id } }, body: { into } })),
    meta: { outdates: [placements, placementSets] },
  });

/** Reads a list of placements; with `dry` nothing is made yet. */
export const placementsImport = () =>
  mutationOptions({
    mutationFn: async ({ list, ...query }: PlacementsGiven) =>
      dataOf(
        await api.POST('/api/v1/placements/import', {
          params: { query },
          body: list as never,
          bodySerializer: (body: unknown) => body as BodyInit,
          headers: { 'Content-Type': list instanceof File ? 'application/octet-stream' : 'text/plain' },
        }),
      ) as Schema['PlacementImportAnswer'],
    meta: { outdates: [placements, placementSets] },
  });

interface PlacementsGiven {
  /** A file, or pasted text. */
  list: File | string;
  dry: boolean;
  /** For all of them. */
  channel?: string;
  publisher?: string;
  set?: string;
}

/** Puts placements into a set that is there, or into a new one. */
export const placementSetSave = () =>
  mutationOptions({
    mutationFn: async ({ id, ...body }: { id: string | undefined; name: string; placements: string[] }) =>
      dataOf<Schema['PlacementSetAnswer']>(
        id
          ? await api.PUT('/api/v1/placement-sets/{id}', { params: { path: { id } }, body })
          : await api.POST('/api/v1/placement-sets', { body }),
      ),
    meta: { outdates: [placementSets] },
  });

/** Deletes a set; its placements stay. */
export const placementSetDelete = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/v1/placement-sets/{id}', { params: { path: { id } } })),
    meta: { outdates: [placementSets] },
  });

/** What a placement costs from which day on; with `dry` only what a change would come to. */
export const savePlacementRates = async (id: string, body: Schema['CostRatesRequest'], dry: boolean) =>
  dataOf(await api.PUT('/api/v1/placements/{id}/rates', { params: { path: { id }, query: { dry } }, body }));

/** Imports of costs, the newest first. */
export const costImportsQuery = () =>
  queryOptions({
    queryKey: ['cost-imports'],
    queryFn: async () => dataOf(await api.GET('/api/v1/imports/costs')),
  });

/** Reads a table of costs; with `dry` nothing of it is kept. */
export const costsTake = (dry: boolean) =>
  mutationOptions({
    mutationFn: async ({ file, recipe }: { file: File; recipe: Schema['CostRecipe'] | null }) => {
      const form = new FormData();
      form.append('file', file, file.name);
      if (recipe) form.append('recipe', JSON.stringify(recipe));
      return dataOf(
        await api.POST('/api/v1/imports/costs', {
          params: { query: { dry } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        } as never),
      ) as Schema['CostImportAnswer'];
    },
    meta: { outdates: dry ? [] : [costImportsQuery().queryKey, ['arrivals'], ['campaign'], ['links']] },
  });

/** Takes an import of costs out of all figures, or puts it back. */
export const costImportUndo = () =>
  mutationOptions({
    mutationFn: async ({ id, undo }: { id: string; undo: boolean }) =>
      dataOf(
        undo
          ? await api.POST('/api/v1/imports/costs/{id}/undo', { params: { path: { id } } })
          : await api.POST('/api/v1/imports/costs/{id}/redo', { params: { path: { id } } }),
      ),
    meta: { outdates: [costImportsQuery().queryKey, ['arrivals'], ['campaign'], ['links']] },
  });
