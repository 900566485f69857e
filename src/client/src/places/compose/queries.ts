import { queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';

/** Pages of a campaign with the texts to share them. */
export const sharePagesQuery = (campaign: string) =>
  queryOptions({
    queryKey: ['share-pages', campaign],
    queryFn: async () => dataOf(await api.GET('/api/v1/share-texts', { params: { query: { campaign } } })),
  });

/** A share text with each placement’s own link in it. */
export const filledTextQuery = (campaign: string, page: string, text: string) =>
  queryOptions({
    queryKey: ['share-fill', campaign, page, text],
    queryFn: async () => dataOf(await api.POST('/api/v1/share-texts/fill', { body: { campaign, page, text } })),
  });

/** Whether a slug is free, which ones look like it, and ideas. */
export const slugCheckQuery = (asked: {
  slug?: string;
  domain?: string;
  page?: string;
  campaign?: string;
  placement?: string;
}) =>
  queryOptions({
    queryKey: ['slug-check', asked],
    queryFn: async () => dataOf(await api.GET('/api/v1/slugs/check', { params: { query: asked } })),
  });

/** The parameters of a placement without a page. */
export const snippetQuery = (body: Schema['SnippetRequest']) =>
  queryOptions({
    queryKey: ['snippet', body],
    queryFn: async () => dataOf(await api.POST('/api/v1/links/snippet', { body })),
  });

/** Links as they would be made, by the key of their cell; `asked` is the pairs of key and request as JSON. */
export const composedQuery = (asked: string) =>
  queryOptions({
    queryKey: ['compose', asked],
    queryFn: async () => {
      const pairs = JSON.parse(asked) as [string, Schema['ComposeRequest']][];
      const answer = dataOf(
        await api.POST('/api/v1/links/compose-many', { body: { links: pairs.map(([, request]) => request) } }),
      );
      return new Map(pairs.map(([key], i) => [key, answer.links[i]!]));
    },
    retry: 3,
  });
