import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf } from './client';

/** The newest trial of a link; null for none. */
export const latestTrialQuery = (linkId: string) =>
  queryOptions({
    queryKey: ['trials', 'of-link', linkId],
    queryFn: async () =>
      dataOf(await api.GET('/api/v1/trials', { params: { query: { link: linkId, size: 1 } } }))[0] ?? null,
  });

/** How many trials are looked through for what just arrived. */
const recent = 20;

/** The newest trials. */
export const recentTrialsQuery = () =>
  queryOptions({
    queryKey: ['trials', 'recent'],
    queryFn: async () => dataOf(await api.GET('/api/v1/trials', { params: { query: { size: recent } } })),
  });

/** Begins a trial of a link. */
export const trialStart = () =>
  mutationOptions({
    mutationFn: async (linkId: string) => dataOf(await api.POST('/api/v1/trials', { body: { linkId } })),
    meta: { outdates: [['trials']] },
  });
