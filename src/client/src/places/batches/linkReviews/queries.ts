import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, Refused, type Schema } from '../../../api/client';
import { lastLineOf } from '../../../api/lines';

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

/** How far a review is. */
export interface ReviewProgress {
  done: number;
  total: number;
  /** What is counted. */
  what: 'links' | 'pages';
}

/** Reviews the links of a file, or those on the pages of a site. */
export const linkReviewMake = (onProgress: (progress: ReviewProgress) => void) =>
  mutationOptions({
    mutationFn: async (asked: File | { site: string }) => {
      const ofFile = asked instanceof File;
      const stream = ofFile
        ? await api.POST('/api/v1/link-reviews', {
            params: { query: { name: asked.name } },
            body: asked as never,
            bodySerializer: (body: unknown) => body as Blob,
            parseAs: 'stream',
          } as never)
        : await api.POST('/api/v1/link-reviews/site', { body: { site: asked.site }, parseAs: 'stream' });
      const last = await lastLineOf<Schema['LinkReviewProgress']>(stream, (line) =>
        onProgress({ ...line, what: ofFile ? 'links' : 'pages' }),
      );
      if (!last.id) throw new Refused(last.refused ?? 'The review was interrupted. Start it again.', 422);
      return last.id;
    },
    meta: { outdates: [linkReviewsQuery().queryKey] },
  });
