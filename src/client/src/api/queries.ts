import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from './client';

/** Fields of the convention that holds. */
export const fieldsQuery = () =>
  queryOptions({
    queryKey: ['fields'],
    queryFn: async () => dataOf(await api.GET('/api/v1/convention/fields')),
  });

/** Placements that are offered. */
export const placementsQuery = () =>
  queryOptions({
    queryKey: ['placements'],
    queryFn: async () => dataOf(await api.GET('/api/v1/placements')),
  });

/** Every placement, those no longer offered too. */
export const allPlacementsQuery = () =>
  queryOptions({
    queryKey: ['placements', 'all'],
    queryFn: async () => dataOf(await api.GET('/api/v1/placements', { params: { query: { retired: true } } })),
  });

/** Sets of placements. */
export const placementSetsQuery = () =>
  queryOptions({
    queryKey: ['placement-sets'],
    queryFn: async () => dataOf(await api.GET('/api/v1/placement-sets')),
  });

/** Campaigns that are not archived. */
export const campaignsQuery = () =>
  queryOptions({
    queryKey: ['campaigns'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns')),
  });

/** Every campaign, archived ones too. */
export const allCampaignsQuery = () =>
  queryOptions({
    queryKey: ['campaigns', 'all'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns', { params: { query: { archived: true } } })),
  });

/** Short domains, the first one first. */
export const shortDomainsQuery = () =>
  queryOptions({
    queryKey: ['short-domains'],
    queryFn: async () => dataOf(await api.GET('/api/v1/short-domains')),
  });

/** Topics of links, the most used first. */
export const topicsQuery = () =>
  queryOptions({
    queryKey: ['links', 'topics'],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/topics')),
  });

/** Pages whose title or address has the words. */
export const pagesQuery = (search: string, most: number) =>
  queryOptions({
    queryKey: ['pages', search, most],
    queryFn: async () => dataOf(await api.GET('/api/v1/pages', { params: { query: { search, most } } })),
  });

/** The convention that holds. */
export const conventionQuery = () =>
  queryOptions({
    queryKey: ['convention', 'published'],
    queryFn: async () => dataOf(await api.GET('/api/v1/convention')),
  });

/** Campaigns, placements, links and pages with these words. */
export const findQuery = (text: string) =>
  queryOptions({
    queryKey: ['find', text],
    queryFn: async () => dataOf(await api.GET('/api/v1/find', { params: { query: { text } } })),
  });

/** Attributes that campaigns can have. */
export const attributesQuery = () =>
  queryOptions({
    queryKey: ['attributes'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaign-attributes')),
  });

/** The newest visits of some days. */
export const newestVisitsQuery = (from: string, to: string, size: number) =>
  queryOptions({
    queryKey: ['arrivals', 'newest', from, to, size],
    queryFn: async () => dataOf(await api.GET('/api/v1/visits', { params: { query: { from, to, size } } })),
  });

/** What all checks of Proof found; how many are open stands on the rail. */
export const findingsQuery = () =>
  queryOptions({
    queryKey: ['findings'],
    queryFn: async () => dataOf(await api.GET('/api/v1/findings')),
    staleTime: 20_000,
    refetchInterval: 60_000,
  });
