import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';

/** API keys, newest first. */
export const keysQuery = () =>
  queryOptions({
    queryKey: ['keys'],
    queryFn: async () => dataOf(await api.GET('/api/v1/keys')),
  });

/** How the workspace writes its links. */
export const linkWritingQuery = () =>
  queryOptions({
    queryKey: ['link-writing'],
    queryFn: async () => dataOf(await api.GET('/api/v1/link-writing')),
  });

/** Blocked hosts. */
export const refusedHostsQuery = () =>
  queryOptions({
    queryKey: ['refused-hosts'],
    queryFn: async () => dataOf(await api.GET('/api/v1/refused-hosts')),
  });

/** Sites that are measured. */
export const sitesQuery = () =>
  queryOptions({
    queryKey: ['sites'],
    queryFn: async () => dataOf(await api.GET('/api/v1/sites')),
  });
