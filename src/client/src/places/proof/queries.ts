import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';
import { live } from '../../api/live';

/** How often a trial that waits for its page is asked after, in milliseconds: nothing tells that something did not come. */
const waitingPace = 3_000;

/** The newest trials. */
export const trialsQuery = () =>
  queryOptions({
    queryKey: ['trials'],
    queryFn: async () => dataOf(await api.GET('/api/v1/trials')),
    ...live,
  });

/** One trial, as far as it has come. */
export const trialQuery = (id: string) =>
  queryOptions({
    queryKey: ['trials', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/trials/{id}', { params: { path: { id } } })),
    meta: live.meta,
    refetchInterval: (query) => (query.state.data?.verdict === 'underway' ? waitingPace : live.refetchInterval),
  });

/** Links that are variants of each other, over the last 90 days. */
export const variantTestsQuery = () =>
  queryOptions({
    queryKey: ['variant-tests'],
    queryFn: async () => dataOf(await api.GET('/api/v1/variant-tests')),
  });

/** Clicks beside visits, link by link, over the last 28 days. */
export const clickGapsQuery = () =>
  queryOptions({
    queryKey: ['click-gaps'],
    queryFn: async () => dataOf(await api.GET('/api/v1/click-gaps')),
  });

/** How often a run of page checks that goes on is asked after, in milliseconds. */
const runPace = 2_000;

/** Pages that links lead to, or only those of a sheet, with what was found. */
export const pageChecksQuery = (sheet?: string) =>
  queryOptions({
    queryKey: ['page-checks', sheet],
    queryFn: async () => dataOf(await api.GET('/api/v1/page-checks', { params: { query: { sheet } } })),
    refetchInterval: (query) => (query.state.data?.run && !query.state.data.run.finishedAt ? runPace : 60_000),
  });

/** Checks all pages now, or those of a sheet. */
export const pageChecksStart = (sheet?: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/page-checks/run', { params: { query: { sheet } } })),
    meta: { outdates: [['page-checks']] },
  });

/** Ends the run that goes on. */
export const pageChecksCancel = () =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/page-checks/run')),
    meta: { outdates: [['page-checks']] },
  });

/** Sets how often pages are checked, in days; null for never. */
export const pageChecksSchedule = () =>
  mutationOptions({
    mutationFn: async (days: number | null) =>
      dataOf(await api.PUT('/api/v1/page-checks/schedule', { body: { days } })),
    meta: { outdates: [['page-checks']] },
  });

/** Mutes a finding with a reason; without one it is unmuted. */
export const pageFindingMute = () =>
  mutationOptions({
    mutationFn: async (body: Schema['PageFindingMute']) => dataOf(await api.PUT('/api/v1/page-checks/mute', { body })),
    meta: { outdates: [['page-checks']] },
  });

/** Tags of the last 90 days that the convention does not know, and what is assigned. */
export const straysQuery = () =>
  queryOptions({
    queryKey: ['strays'],
    queryFn: async () => dataOf(await api.GET('/api/v1/strays')),
  });

/** What the reports would say before and after some assignments. */
export const strayEffectQuery = (assignments: Schema['AssignStray'][]) =>
  queryOptions({
    queryKey: ['strays', 'effect', assignments],
    queryFn: async ({ signal }) => dataOf(await api.POST('/api/v1/strays/effect', { body: { assignments }, signal })),
    enabled: assignments.length > 0,
  });

/** Assigns strays; every report may say something else afterwards. */
export const straysAssign = () =>
  mutationOptions({
    mutationFn: async (assignments: Schema['AssignStray'][]) =>
      dataOf(await api.POST('/api/v1/strays/assignments', { body: { assignments } })),
    meta: { outdates: [[]] },
  });

/** Takes assignments back. */
export const straysUndo = () =>
  mutationOptions({
    mutationFn: async (ids: string[]) => dataOf(await api.POST('/api/v1/strays/assignments/undo', { body: { ids } })),
    meta: { outdates: [[]] },
  });

/** Makes values words, or aliases of one, in the draft of the convention. */
export const straysDraft = () =>
  mutationOptions({
    mutationFn: async (body: Schema['DraftWords']) => dataOf(await api.POST('/api/v1/strays/words', { body })),
    meta: { outdates: [['convention']] },
  });

/** Quiets a finding for some days, with a reason; without days it is counted again. */
export const findingQuiet = () =>
  mutationOptions({
    mutationFn: async ({ id, ...body }: { id: string } & Schema['FindingQuiet']) =>
      dataOf(await api.PUT('/api/v1/findings/{id}/quiet', { params: { path: { id } }, body })),
    meta: { outdates: [['findings']] },
  });

/** How often an import that goes on is asked after, in milliseconds. */
const importPace = 1_000;

/** Other systems' figures beside ours, of the last four weeks they have figures of. */
export const figuresQuery = () =>
  queryOptions({
    queryKey: ['figures'],
    queryFn: async () => dataOf(await api.GET('/api/v1/figures')),
  });

/** Imports of other systems' figures, the newest first. */
export const figureImportsQuery = () =>
  queryOptions({
    queryKey: ['figure-imports'],
    queryFn: async () => dataOf(await api.GET('/api/v1/imports/figures')),
    refetchInterval: (query) => (query.state.data?.some((i) => !i.finishedAt) ? importPace : false),
  });

const outdated = [['figures'], ['figure-imports'], ['findings']];

/** Reads a table of another system's figures; with `dry` nothing of it is kept. */
export const figuresTake = (dry: boolean) =>
  mutationOptions({
    mutationFn: async ({
      file,
      system,
      recipe,
    }: {
      file: File;
      system: string;
      recipe: Schema['FigureRecipe'] | null;
    }) => {
      const form = new FormData();
      form.append('file', file, file.name);
      if (recipe) form.append('recipe', JSON.stringify(recipe));
      return dataOf(
        await api.POST('/api/v1/imports/figures', {
          params: { query: { dry, system } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        } as never),
      ) as Schema['FigureImportAnswer'];
    },
    meta: { outdates: dry ? [] : outdated },
  });

/** Takes an import of figures out of what is compared, or puts it back. */
export const figureImportUndo = () =>
  mutationOptions({
    mutationFn: async ({ id, undo }: { id: string; undo: boolean }) =>
      dataOf(
        undo
          ? await api.POST('/api/v1/imports/figures/{id}/undo', { params: { path: { id } } })
          : await api.POST('/api/v1/imports/figures/{id}/redo', { params: { path: { id } } }),
      ),
    meta: { outdates: outdated },
  });

/** Says what a name in files means. */
export const figureName = () =>
  mutationOptions({
    mutationFn: async (body: Schema['FigureName']) => dataOf(await api.POST('/api/v1/figures/names', { body })),
    meta: { outdates: outdated },
  });

/** Forgets what a name in files means. */
export const figureNameForget = () =>
  mutationOptions({
    mutationFn: async (body: Schema['FigureName']) => dataOf(await api.POST('/api/v1/figures/names/forget', { body })),
    meta: { outdates: outdated },
  });
