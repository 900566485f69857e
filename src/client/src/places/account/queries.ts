import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';

/** One's own sessions. */
export const sessionsQuery = () =>
  queryOptions({
    queryKey: ['sessions'],
    queryFn: async () => dataOf(await api.GET('/api/account/sessions')),
  });
