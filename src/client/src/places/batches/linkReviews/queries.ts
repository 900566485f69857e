import { queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../../api/client';

/** Link reviews, newest first. */
export const linkReviewsQuery = () =>
  queryOptions({
    queryKey: ['link-reviews'],
    queryFn: async () => dataOf(await api.GET('/api/v1/link-reviews')),
  });

/** A link review with its notices counted. */
export const linkReviewQuery = (id: string) =>
  queryOptions({
    queryKey: ['link-review', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/link-reviews/{id}', { params: { path: { id } } })),
  });

/** A page of its links. */
export const reviewedLinksQuery = (
  id: string,
  filter: { state?: Schema['LinkReviewLinkAnswer']['state']; rule?: string },
  page: number,
  perPage: number,
) =>
  queryOptions({
    queryKey: ['link-review', id, 'links', filter, page],
    queryFn: async () =>
      dataOf(
        await api.GET('/api/v1/link-reviews/{id}/links', {
          params: { path: { id }, query: { ...filter, skip: page * perPage, most: perPage } },
        }),
      ),
  });
