import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';
import { fieldsQuery } from '../../api/queries';
import { effectOf } from './effectOf';
import type { ConventionDocument } from './document';

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

/** What publishing the draft would change; `onProgress` is told how many links are checked. */
export const draftEffect = (onProgress: (progress: Schema['EffectProgress']) => void) =>
  mutationOptions({
    mutationFn: async () => effectOf(await api.POST('/api/v1/convention/effect', { parseAs: 'stream' }), onProgress),
  });

/** Makes the draft the current version. */
export const draftPublish = () =>
  mutationOptions({
    mutationFn: async (revision: string) =>
      dataOf(await api.POST('/api/v1/convention/publish', { params: { query: { revision } } })),
    meta: { outdates: [['convention'], fieldsQuery().queryKey] },
  });

/** Throws the draft away. */
export const draftDiscard = () =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/convention/discard')),
    meta: { outdates: [['convention'], fieldsQuery().queryKey] },
  });

/** What an earlier version says. */
export const conventionOf = async (version: number) =>
  dataOf(await api.GET('/api/v1/convention', { params: { query: { version: String(version) } } }))
    .document as ConventionDocument;

/** Stores the draft, as it was at that revision; null for the first one. */
export const saveDraft = async (document: ConventionDocument, revision: string | null) =>
  dataOf(await api.PUT('/api/v1/convention', { body: { document, revision } }));

/** Reads a convention from a file; nothing is stored. */
export const readConventionFile = async (file: File) =>
  dataOf(
    await api.POST('/api/v1/convention/read-file', {
      body: file as never,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': 'application/octet-stream' },
    } as never),
  ) as Schema['FileRead'];
