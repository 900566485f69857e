import { keepPreviousData, useQueries, useQueryClient } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';

export type Row = Schema['BatchRowAnswer'];

/** Which rows are looked at, and in which order. */
export interface RowView {
  outcome?: string;
  rule?: string;
  /** Position of the column they are ordered by, -1 for the outcome; the order of the sheet without it. */
  sort?: number;
  descending?: boolean;
}

const perPage = 100;

/** Rows by their place in what is looked at, fetched as far as they are seen or asked for. */
export function useRows(batch: string, view: RowView, version: string, from: number, to: number) {
  const queries = useQueryClient();
  const first = Math.floor(from / perPage);
  const pageOf = (page: number) => ({
    queryKey: ['batch-rows', batch, version, view, page],
    queryFn: async () =>
      dataOf(
        await api.GET('/api/v1/batches/{id}/rows', {
          params: { path: { id: batch }, query: { ...view, skip: page * perPage, most: perPage } },
        }),
      ),
    staleTime: 60_000,
  });
  const pages = useQueries({
    queries: Array.from({ length: Math.floor(to / perPage) - first + 1 }, (_, i) => ({
      ...pageOf(first + i),
      placeholderData: keepPreviousData,
    })),
  });
  return {
    at: (index: number): Row | undefined => pages[Math.floor(index / perPage) - first]?.data?.rows[index % perPage],
    /** Rows of a stretch, also those that are not in sight. */
    between: async (start: number, end: number): Promise<Row[]> => {
      const rows: Row[] = [];
      for (let page = Math.floor(start / perPage); page * perPage <= end; page++) {
        const found = await queries.fetchQuery(pageOf(page));
        rows.push(...found.rows.filter((_, i) => page * perPage + i >= start && page * perPage + i <= end));
      }
      return rows;
    },
  };
}
