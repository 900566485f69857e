import { infiniteQueryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';

/** Which changes are wanted; what is empty narrows nothing. */
export interface ChangesAsked {
  who?: string;
  what?: string;
  from?: string;
  to?: string;
}

/** Who changed what, a page after the other. */
export const changesQuery = (asked: ChangesAsked) =>
  infiniteQueryOptions({
    queryKey: ['changes', asked],
    queryFn: async ({ pageParam }) =>
      dataOf(
        await api.GET('/api/v1/changes', {
          params: {
            query: {
              ...Object.fromEntries(Object.entries(asked).filter(([, value]) => value)),
              ...(pageParam && { olderThan: pageParam }),
            },
          },
        }),
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next,
  });
