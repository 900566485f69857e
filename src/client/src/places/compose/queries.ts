import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type ComposeRequest, type Schema } from '../../api/client';
import { lastLineOf } from '../../api/lines';

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

/** Saves the text that a page is shared with, as it was at that revision. */
export const shareTextKeep = () =>
  mutationOptions({
    mutationFn: async (body: Schema['PageTextRequest']) => dataOf(await api.PUT('/api/v1/share-texts', { body })),
    meta: { outdates: [['share-pages']] },
  });

/** Notes that a link was placed, or that it wasn’t. */
export const linkPlaced = () =>
  mutationOptions({
    mutationFn: async ({ linkId, placed }: { linkId: string; placed: boolean }) =>
      dataOf(await api.POST('/api/v1/links/{id}/placed', { params: { path: { id: linkId } }, body: { placed } })),
    meta: { outdates: [['share-fill'], ['share-pages']] },
  });

/** Saves links, all of them or none; the same attempt sent again is one saving. */
export const saveLinks = async (
  links: ComposeRequest[],
  attempt: string,
  onProgress: (progress: Schema['SaveProgress']) => void,
) => {
  const stream = await api.POST('/api/v1/links/many/with-progress', {
    body: { links },
    headers: { 'Idempotency-Key': attempt },
    parseAs: 'stream',
  });
  const last = await lastLineOf<Schema['SaveProgress']>(stream, onProgress);
  if (!last.answer) throw new Error(last.refused ?? 'Nothing was saved; try again.');
  return last.answer;
};

/** What pasted links are made of. */
export const inspectLinks = async (urls: string[]) =>
  dataOf(await api.POST('/api/v1/links/inspect-many', { body: { urls } })).links;
