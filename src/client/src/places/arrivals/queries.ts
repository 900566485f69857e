import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';
import type { Range } from './range';

/** Rows of visits, narrowed down, with the total and the days. */
export const arrivalsQuery = (range: Range, rows: string, where: string[] = [], size?: number) =>
  queryOptions({
    queryKey: ['arrivals', range, rows, where, size],
    queryFn: async () =>
      dataOf(await api.GET('/api/v1/arrivals', { params: { query: { ...range, rows, where, size } } })),
  });

/** The links behind visits. */
export const arrivalLinksQuery = (range: Range, where: string[]) =>
  queryOptions({
    queryKey: ['arrivals', range, 'links', where],
    queryFn: async () => dataOf(await api.GET('/api/v1/arrivals/links', { params: { query: { ...range, where } } })),
  });
