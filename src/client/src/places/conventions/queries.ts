import { queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';

/** The rules with what they say and how grave they are. */
export const rulesQuery = () =>
  queryOptions({
    queryKey: ['rules'],
    queryFn: async () => dataOf(await api.GET('/api/v1/convention/rules')),
    staleTime: Infinity,
  });

/** Versions of the convention, newest first. */
export const versionsQuery = () =>
  queryOptions({
    queryKey: ['convention', 'versions'],
    queryFn: async () => dataOf(await api.GET('/api/v1/convention/versions')),
  });

/** What is different between two versions. */
export const conventionDifferenceQuery = (before: string, after: string) =>
  queryOptions({
    queryKey: ['convention', 'difference', before, after],
    queryFn: async () =>
      dataOf(await api.GET('/api/v1/convention/difference', { params: { query: { before, after } } })),
  });

/** What pasted words would do to a list; `asked` is the request as JSON, so that equal ones are asked once. */
export const pastedWordsQuery = (asked: string) =>
  queryOptions({
    queryKey: ['paste', asked],
    queryFn: async () =>
      dataOf(await api.POST('/api/v1/convention/words/preview', { body: JSON.parse(asked) as Schema['PreviewWords'] })),
  });

/** What a draft makes of a text; `asked` is the request as JSON, so that equal ones are asked once. */
export const triedQuery = (asked: string) =>
  queryOptions({
    queryKey: ['try', asked],
    queryFn: async () =>
      dataOf(await api.POST('/api/v1/convention/try', { body: JSON.parse(asked) as Schema['TryRequest'] })),
  });

/** What holds, and the draft beside it; undefined while there is none. */
export const draftQuery = () =>
  queryOptions({
    queryKey: ['convention', 'draft'],
    queryFn: async () => {
      const [published, versions] = await Promise.all([
        api.GET('/api/v1/convention').then(dataOf),
        api.GET('/api/v1/convention/versions').then(dataOf),
      ]);
      const hasDraft = versions.some((version) => version.isDraft);
      return {
        published,
        stored: hasDraft
          ? dataOf(await api.GET('/api/v1/convention', { params: { query: { version: 'draft' } } }))
          : undefined,
      };
    },
    staleTime: Infinity,
  });
