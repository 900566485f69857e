import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';
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
