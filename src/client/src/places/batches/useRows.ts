import { keepPreviousData, useQueries, useQueryClient } from '@tanstack/react-query';
import type { Schema } from '../../api/client';
import { batchRowsQuery, rowsPerPage as perPage } from './queries';

export type Row = Schema['BatchRowAnswer'];

/** Which rows are looked at, and in which order. */
export interface RowView {
  outcome?: string;
  rule?: string;
  /** Position of the column they are ordered by, -1 for the outcome; the order of the sheet without it. */
  sort?: number;
  descending?: boolean;
}

/** Rows by their place in what is looked at, fetched as far as they are seen or asked for. */
export function useRows(batch: string, view: RowView, version: string, from: number, to: number) {
  const queries = useQueryClient();
  const first = Math.floor(from / perPage);
  const pageOf = (page: number) => batchRowsQuery(batch, version, view, page);
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
