import { queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../../api/client';
import { cleaned, type Look } from './look';

/** A code as it would be drawn, and whether it scans. */
export const codeQuery = (id: string, look: Look) =>
  queryOptions({
    queryKey: ['code', id, look],
    queryFn: async () =>
      dataOf(
        await api.GET('/api/v1/links/{id}/code', {
          params: { path: { id }, query: cleaned(look) as Record<string, never> },
        }),
      ),
  });

/** Logos that codes can have. */
export const logosQuery = () =>
  queryOptions({
    queryKey: ['code-logos'],
    queryFn: async () => dataOf(await api.GET('/api/v1/code-logos')),
  });

/** How many codes there would be, and on how many pages. */
export const codesCountQuery = (asked: Schema['SheetOfCodes']) =>
  queryOptions({
    queryKey: ['codes-count', asked],
    queryFn: async () => dataOf(await api.POST('/api/v1/codes/count', { body: asked })),
  });
