import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';
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
