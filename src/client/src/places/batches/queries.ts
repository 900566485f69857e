import { queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';
import type { RowView } from './useRows';

/** Rows that are fetched at once. */
export const rowsPerPage = 100;

/** A batch, asked again while it runs. */
export const batchQuery = (id: string) =>
  queryOptions({
    queryKey: ['batch', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/batches/{id}', { params: { path: { id } } })),
    refetchInterval: (query) => (query.state.data?.state === 'running' ? 700 : false),
  });

/** Sheets, newest first. */
export const batchesQuery = () =>
  queryOptions({
    queryKey: ['batches'],
    queryFn: async () => dataOf(await api.GET('/api/v1/batches')),
  });

/** What is different from the sheet before. */
export const differenceQuery = (batch: Pick<Schema['BatchAnswer'], 'id' | 'reading'>) =>
  queryOptions({
    queryKey: ['difference', batch.id, batch.reading],
    queryFn: async () =>
      dataOf(await api.GET('/api/v1/batches/{id}/difference', { params: { path: { id: batch.id } } })),
  });

/** Saved recipes, those that fit the batch first. */
export const recipesQuery = (batch: string) =>
  queryOptions({
    queryKey: ['recipes', batch],
    queryFn: async () => dataOf(await api.GET('/api/v1/recipes', { params: { query: { batch } } })),
  });

/** A page of rows. */
export const batchRowsQuery = (batch: string, version: string, view: RowView, page: number) =>
  queryOptions({
    queryKey: ['batch-rows', batch, version, view, page],
    queryFn: async () =>
      dataOf(
        await api.GET('/api/v1/batches/{id}/rows', {
          params: { path: { id: batch }, query: { ...view, skip: page * rowsPerPage, most: rowsPerPage } },
        }),
      ),
    staleTime: 60_000,
  });
