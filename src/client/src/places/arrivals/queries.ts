import { infiniteQueryOptions, mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';
import { countryOutline, type Point } from './countryOutline';
import type { Range } from './range';

/** What is asked of a breakdown besides its range. */
export interface Asked {
  rows: string;
  where?: string[];
  measures?: string;
  compare?: string;
  sort?: string;
  search?: string;
  series?: string;
  credit?: string;
  creditBeside?: string;
  creditDays?: number;
  page?: number;
  size?: number;
}

/** Rows of visits, narrowed down, with the total and the days. */
export const arrivalsQuery = (range: Range, asked: Asked) =>
  queryOptions({
    queryKey: ['arrivals', range, asked],
    queryFn: async ({ signal }) =>
      dataOf(await api.GET('/api/v1/arrivals', { params: { query: { ...range, ...asked } }, signal })),
  });

/** The outline of a country, with room for its towns. */
export const countryOutlineQuery = (country: string, towns: readonly Point[]) =>
  queryOptions({
    queryKey: ['country-outline', country, towns],
    queryFn: () => countryOutline(country, towns),
    staleTime: Infinity,
  });

/** The links behind visits. */
export const arrivalLinksQuery = (range: Range, where: string[]) =>
  queryOptions({
    queryKey: ['arrivals', range, 'links', where],
    queryFn: async () => dataOf(await api.GET('/api/v1/arrivals/links', { params: { query: { ...range, where } } })),
  });

/** Single visits, the newest first, page after page. */
export const visitsQuery = (range: Range, where: string[]) =>
  infiniteQueryOptions({
    queryKey: ['arrivals', range, 'visits', where],
    queryFn: async ({ pageParam, signal }) =>
      dataOf(
        await api.GET('/api/v1/visits', {
          params: { query: { ...range, where, size: 100, ...(pageParam && { after: pageParam }) } },
          signal,
        }),
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
  });

/** One visit with what happened during it. */
export const visitQuery = (id: string) =>
  queryOptions({
    queryKey: ['arrivals', 'visit', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/visits/{id}', { params: { path: { id } } })),
  });

/** Share texts that were posted, and what came of them. */
export const postingsQuery = (range: Range, where: string[]) =>
  queryOptions({
    queryKey: ['arrivals', range, 'postings', where],
    queryFn: async ({ signal }) =>
      dataOf(await api.GET('/api/v1/arrivals/postings', { params: { query: { ...range, where } }, signal })),
  });

export type PageOrder = 'seen' | 'visits' | 'entered' | 'left';

/** Pages seen, entered and left. */
export const pageFiguresQuery = (range: Range, where: string[], search: string, sort: PageOrder, page: number) =>
  queryOptions({
    queryKey: ['arrivals', range, 'pages', where, search, sort, page],
    queryFn: async ({ signal }) =>
      dataOf(
        await api.GET('/api/v1/arrivals/pages', {
          params: { query: { ...range, where, sort, page, ...(search && { search }) } },
          signal,
        }),
      ),
  });

export type ProductOrder = 'value' | 'pieces' | 'orders' | 'advertised';

/** Products that were bought. */
export const productsQuery = (range: Range, where: string[], search: string, sort: ProductOrder, page: number) =>
  queryOptions({
    queryKey: ['arrivals', range, 'products', where, search, sort, page],
    queryFn: async ({ signal }) =>
      dataOf(
        await api.GET('/api/v1/arrivals/products', {
          params: { query: { ...range, where, sort, page, ...(search && { search }) } },
          signal,
        }),
      ),
  });

export type SpotOrder = 'seen' | 'clicked' | 'rate' | 'conversions';

/** Spots of a site's own pages, seen and clicked. */
export const spotsQuery = (range: Range, where: string[], search: string, sort: SpotOrder, page: number) =>
  queryOptions({
    queryKey: ['arrivals', range, 'spots', where, search, sort, page],
    queryFn: async ({ signal }) =>
      dataOf(
        await api.GET('/api/v1/arrivals/spots', {
          params: { query: { ...range, where, sort, page, ...(search && { search }) } },
          signal,
        }),
      ),
  });

/** How far visits get on a way. */
export const stepsQuery = (range: Range, where: string[], step: string[]) =>
  queryOptions({
    queryKey: ['arrivals', range, 'steps', where, step],
    queryFn: async ({ signal }) =>
      dataOf(await api.GET('/api/v1/arrivals/steps', { params: { query: { ...range, where, step } }, signal })),
  });

/** The paths people took to their conversions. */
export const pathsQuery = (range: Range, where: string[], by: string, creditDays: number, page: number) =>
  queryOptions({
    queryKey: ['arrivals', range, 'paths', where, by, creditDays, page],
    queryFn: async ({ signal }) =>
      dataOf(
        await api.GET('/api/v1/arrivals/paths', {
          params: { query: { ...range, where, by, creditDays, page } },
          signal,
        }),
      ),
  });

/** One's own and the shared views, in their order. */
export const savedViewsQuery = () =>
  queryOptions({
    queryKey: ['saved-views'],
    queryFn: async () => dataOf(await api.GET('/api/v1/saved-views')),
  });

const outdatesViews = { outdates: [savedViewsQuery().queryKey] };

/** Keeps a view under a name, or changes a kept one. */
export const viewSave = () =>
  mutationOptions({
    mutationFn: async ({ id, ...body }: Schema['SavedViewRequest'] & { id?: string }) =>
      dataOf(
        id
          ? await api.PUT('/api/v1/saved-views/{id}', { params: { path: { id } }, body })
          : await api.POST('/api/v1/saved-views', { body }),
      ),
    meta: outdatesViews,
  });

/** Removes a kept view. */
export const viewRemove = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/v1/saved-views/{id}', { params: { path: { id } } })),
    meta: outdatesViews,
  });

/** Puts kept views into an order. */
export const viewOrder = () =>
  mutationOptions({
    mutationFn: async (ids: string[]) => dataOf(await api.PUT('/api/v1/saved-views/order', { body: { ids } })),
    meta: outdatesViews,
  });

/** Notes on days of a range, the newest first. */
export const dayNotesQuery = (range: Range) =>
  queryOptions({
    queryKey: ['day-notes', range],
    queryFn: async () => dataOf(await api.GET('/api/v1/day-notes', { params: { query: { ...range } } })),
  });

const outdatesNotes = { outdates: [['day-notes']] };

/** Writes a note, or changes one. */
export const noteSave = () =>
  mutationOptions({
    mutationFn: async ({ id, ...body }: { id?: string; day: string; text: string }) =>
      dataOf(
        id
          ? await api.PUT('/api/v1/day-notes/{id}', { params: { path: { id } }, body })
          : await api.POST('/api/v1/day-notes', { body }),
      ),
    meta: outdatesNotes,
  });

/** Removes a note. */
export const noteRemove = () =>
  mutationOptions({
    mutationFn: async (id: string) => dataOf(await api.DELETE('/api/v1/day-notes/{id}', { params: { path: { id } } })),
    meta: outdatesNotes,
  });

/** Results pages of views, the newest first. */
export const resultsPagesQuery = () =>
  queryOptions({
    queryKey: ['results-pages'],
    queryFn: async () => dataOf(await api.GET('/api/v1/results-pages')),
  });

const outdatesPages = { outdates: [resultsPagesQuery().queryKey] };

/** Makes a results page of a view, or changes one. */
export const resultsPageSave = () =>
  mutationOptions({
    mutationFn: async ({ id, ...body }: Schema['ResultPageRequest'] & { id?: string }) =>
      dataOf(
        id
          ? await api.PUT('/api/v1/results-pages/{id}', { params: { path: { id } }, body })
          : await api.POST('/api/v1/results-pages', { body }),
      ),
    meta: outdatesPages,
  });

/** Withdraws a results page for good. */
export const resultsPageWithdraw = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/v1/results-pages/{id}', { params: { path: { id } } })),
    meta: outdatesPages,
  });
