import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';

/** What links are looked for by. */
export type LedgerQuestion = Record<string, string | undefined>;

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
