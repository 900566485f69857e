import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, Refused, type Notice, type Schema } from '../../api/client';
import { lastLineOf } from '../../api/lines';
import type { TypedRow } from './useBlockWriting';
import type { Recipe } from './recipe';
import type { RowView } from './useRows';

const mostMegabytes = 50;

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

/** Takes a sheet in; with `follows` it follows an earlier one as next month’s file does. */
export const sheetUpload = (follows?: string) =>
  mutationOptions({
    mutationFn: async (sheet: File) => {
      // Said before anything is sent: a door that shuts in the middle of an upload can't say why.
      if (sheet.size > mostMegabytes * 1024 * 1024)
        throw new Refused(`A sheet has at most ${mostMegabytes} MB; split it.`, 413);
      const form = new FormData();
      form.append('file', sheet, sheet.name);
      if (follows) form.append('follows', follows);
      return dataOf<Schema['BatchMade']>(
        await api.POST('/api/v1/batches', {
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        } as never),
      );
    },
    meta: { outdates: [batchesQuery().queryKey] },
  });

/** Fetches a sample sheet that the application brings along. */
export const sampleFetch = () =>
  mutationOptions({
    mutationFn: async (name: string) => {
      const sample = dataOf<Blob>(
        await api.GET('/api/v1/samples/{name}', { params: { path: { name } }, parseAs: 'blob' } as never),
      );
      return new File([sample], name, { type: sample.type });
    },
  });

/** Reads a sheet in another way. */
export const readingChange = (id: string) =>
  mutationOptions({
    mutationFn: async (body: Schema['SheetReading']) =>
      dataOf(await api.PUT('/api/v1/batches/{id}/reading', { params: { path: { id } }, body })),
  });

/** Saves a batch’s recipe under a name. */
export const recipeKeep = (batch: string) =>
  mutationOptions({
    mutationFn: async (name: string) => dataOf(await api.POST('/api/v1/recipes', { body: { name, batch } })),
    meta: { outdates: [['recipes']] },
  });

/** Writes a batch’s recipe, as it was at that revision. */
export const writeRecipe = async (id: string, recipe: Recipe, revision: number) =>
  dataOf(await api.PUT('/api/v1/batches/{id}/recipe', { params: { path: { id } }, body: { recipe, revision } }));

/** Types values over those of a sheet. */
export const rowsType = (id: string) =>
  mutationOptions({
    mutationFn: async ({ rows, says }: { rows: TypedRow[]; says?: string }) =>
      dataOf(
        await api.PUT('/api/v1/batches/{id}/overrides', {
          params: { path: { id } },
          body: { rows: rows as Schema['RowOverride'][], says: says ?? null },
        }),
      ),
    meta: { outdates: [batchQuery(id).queryKey] },
  });

/** Repairs every row that has a notice. */
export const rowsRepair = (id: string) =>
  mutationOptions({
    mutationFn: async (notice: Notice) =>
      dataOf(
        await api.POST('/api/v1/batches/{id}/repair', {
          params: { path: { id } },
          body: { rule: notice.rule, field: notice.repair!.field, value: notice.repair!.value },
        }),
      ),
    meta: { outdates: [batchQuery(id).queryKey] },
  });

/** Goes a step back, or forward again. */
export const editStep = (id: string) =>
  mutationOptions({
    mutationFn: async (back: boolean) => {
      const path = { id };
      const done = back
        ? await api.POST('/api/v1/batches/{id}/undo', { params: { path } })
        : await api.POST('/api/v1/batches/{id}/redo', { params: { path } });
      return { back, ...dataOf(done) };
    },
    meta: { outdates: [batchQuery(id).queryKey] },
  });

/** Counts what a run would do; `onProgress` is told how many rows are counted. */
export const runCount = (id: string, onProgress: (progress: Schema['CountProgress']) => void) =>
  mutationOptions({
    mutationFn: async () => {
      const stream = await api.POST('/api/v1/batches/{id}/count', { params: { path: { id } }, parseAs: 'stream' });
      return (await lastLineOf<Schema['CountProgress']>(stream, onProgress)).answer!;
    },
    meta: { outdates: [batchQuery(id).queryKey] },
  });

/** Begins a run. */
export const runBegin = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/batches/{id}/run', { params: { path: { id } } })),
  });

/** Stops a run; what is made stays. */
export const runCancel = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/batches/{id}', { params: { path: { id } } })),
    meta: { outdates: [batchQuery(id).queryKey] },
  });

/** One row, by its number in the sheet. */
export const batchRow = async (id: string, number: number) =>
  dataOf(await api.GET('/api/v1/batches/{id}/rows', { params: { path: { id }, query: { skip: number - 1, most: 1 } } }))
    .rows[0];
