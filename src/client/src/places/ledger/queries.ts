import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';
import type { Change } from './bulkChange';

/** What links are looked for by. */
export type LedgerQuestion = Record<string, string | string[] | undefined>;

/** Links by campaign, placement, channel, topic or state. */
export const linkGroupsQuery = (asked: LedgerQuestion, by: string) =>
  queryOptions({
    queryKey: ['links', 'groups', by, asked],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/groups', { params: { query: { ...asked, by } } })),
  });

/** A page of links. */
export const linksQuery = (asked: LedgerQuestion, page: number, size: number) =>
  queryOptions({
    queryKey: ['links', asked, page, size],
    queryFn: async () => dataOf(await api.GET('/api/v1/links', { params: { query: { ...asked, page, size } } })),
  });

/** Clicks, scans and visits of a link over a span. */
export const linkCountsQuery = (id: string, query: { range: string; from?: string; to?: string }) =>
  queryOptions({
    queryKey: ['link-counts', id, query],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/{id}/counts', { params: { path: { id }, query } })),
  });

/** Who changed what of a link. */
export const linkHistoryQuery = (id: string) =>
  queryOptions({
    queryKey: ['link-history', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/{id}/history', { params: { path: { id } } })),
  });

/** One link. */
export const linkQuery = (id: string) =>
  queryOptions({
    queryKey: ['link', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/{id}', { params: { path: { id } } })),
  });

/** Where its short links lead. */
export const linkRouteQuery = (id: string) =>
  queryOptions({
    queryKey: ['link-route', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/{id}/route', { params: { path: { id } } })),
  });

/** What a change of many links would do. */
export const bulkCount = (links: readonly string[]) =>
  mutationOptions({
    mutationFn: async (change: Change) =>
      dataOf(await api.POST('/api/v1/links/bulk', { body: { links: [...links], ...change, count: true } })),
  });

/** Changes many links at once. */
export const bulkChange = (links: readonly string[]) =>
  mutationOptions({
    mutationFn: async (change: Change) =>
      dataOf(await api.POST('/api/v1/links/bulk', { body: { links: [...links], ...change, count: false } })),
    meta: { outdates: [['links']] },
  });

/** Takes a change of many links back. */
export const bulkUndo = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.POST('/api/v1/links/bulk/{id}/undo', { params: { path: { id } } })),
    meta: { outdates: [['links']] },
  });

/** Gives a link a results page. */
export const resultsPageMake = (id: string) =>
  mutationOptions({
    mutationFn: async (onWherePage: boolean) =>
      dataOf(await api.POST('/api/v1/links/{id}/results-page', { params: { path: { id } }, body: { onWherePage } })),
    meta: { outdates: [['link-counts', id]] },
  });

/** Takes a link’s results page away. */
export const resultsPageWithdraw = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/links/{id}/results-page', { params: { path: { id } } })),
    meta: { outdates: [['link-counts', id]] },
  });

/** Changes a link’s title and topics. */
export const linkNamingChange = (id: string) =>
  mutationOptions({
    mutationFn: async (body: Schema['LinkNaming']) =>
      dataOf(await api.PUT('/api/v1/links/{id}/naming', { params: { path: { id } }, body })),
    meta: { outdates: [linkQuery(id).queryKey, linkHistoryQuery(id).queryKey, ['links']] },
  });

/** Changes where a link’s short links lead. */
export const linkRouteChange = (id: string) =>
  mutationOptions({
    mutationFn: async (body: Schema['RouteChange']) =>
      dataOf(await api.PUT('/api/v1/links/{id}/route', { params: { path: { id } }, body })),
  });

/** Has a link hand on what a visitor’s own address says, in place of its own tags. */
export const linkRouteOverwrite = (id: string) =>
  mutationOptions({
    mutationFn: async () => {
      const now = dataOf(await api.GET('/api/v1/links/{id}/route', { params: { path: { id } } }));
      const body = { ...now, endsAt: now.endsAtLocal, carries: 'overwrite' as const };
      return dataOf(await api.PUT('/api/v1/links/{id}/route', { params: { path: { id } }, body }));
    },
    meta: { outdates: [['links']] },
  });

/** Keeps the columns of the list, to the end also when the page is left at once. */
export const ledgerColumnsChange = () =>
  mutationOptions({
    mutationFn: async (columns: string[]) =>
      dataOf(await api.PUT('/api/account/ledger-columns', { body: { columns }, keepalive: true })),
    meta: { outdates: [['account']] },
  });

/** Approves a host, so that its waiting links work. */
export const hostApprove = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.POST('/api/v1/hosts/{id}/approve', { params: { path: { id } } })),
    meta: { outdates: [['links']] },
  });

/** Reads a list of slugs from a file; nothing is made yet. */
export const slugsRead = () =>
  mutationOptions({
    mutationFn: async ({ file, domain }: { file: Blob; domain: string }) =>
      dataOf(
        await api.POST('/api/v1/slugs/read', {
          params: { query: { domain: domain || undefined } },
          body: file as never,
          bodySerializer: (body) => body,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ) as Schema['SlugImportAnswer'],
  });

/** Makes the links of slugs that were read. */
export const slugsImport = () =>
  mutationOptions({
    mutationFn: async (body: Schema['SlugImportRequest']) => dataOf(await api.POST('/api/v1/slugs/import', { body })),
    meta: { outdates: [['links']] },
  });

/** Ids of every link that is found. */
export const linkIds = async (asked: LedgerQuestion) =>
  dataOf(await api.GET('/api/v1/links/ids', { params: { query: asked } }));

/** What a link costs from which day on, and what its placement does. */
export const linkRatesQuery = (id: string) =>
  queryOptions({
    queryKey: ['link-rates', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/{id}/rates', { params: { path: { id } } })),
  });

/** Gives a link rates of its own; with `dry` only what that would come to. */
export const saveLinkRates = async (id: string, body: Schema['CostRatesRequest'], dry: boolean) =>
  dataOf(await api.PUT('/api/v1/links/{id}/rates', { params: { path: { id }, query: { dry } }, body }));
