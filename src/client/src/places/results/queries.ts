import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';

/** What a results page is about. */
export const resultsQuery = (token: string) =>
  queryOptions({
    queryKey: ['results', token],
    queryFn: async () => dataOf(await api.GET('/api/v1/results/{token}', { params: { path: { token } } })),
    retry: false,
  });

/** What is asked of a results page; its days, conditions and rows are the page's own. */
export interface SharedAsked {
  open?: string[];
  measures?: string;
  sort?: string;
  series?: string;
  page?: number;
  size?: number;
}

/** Rows of a results page, or its course over time. */
export const sharedArrivalsQuery = (token: string, asked: SharedAsked) =>
  queryOptions({
    queryKey: ['results', token, 'arrivals', asked],
    queryFn: async ({ signal }) =>
      dataOf(await api.GET('/api/v1/results/{token}/arrivals', { params: { path: { token }, query: asked }, signal })),
  });

/** What was counted on the link of a results page. */
export const sharedCountsQuery = (token: string) =>
  queryOptions({
    queryKey: ['results', token, 'counts'],
    queryFn: async () => dataOf(await api.GET('/api/v1/results/{token}/counts', { params: { path: { token } } })),
  });
