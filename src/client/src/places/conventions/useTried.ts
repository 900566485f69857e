import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api, dataOf } from '../../api/client';

/** What the draft makes of a text; `asked` is the request as JSON, so that equal ones are asked once. */
export const useTried = (asked: string, enabled = true) =>
  useQuery({
    queryKey: ['try', asked],
    queryFn: async () =>
      dataOf(
        await api.POST('/api/v1/convention/try', {
          body: JSON.parse(asked) as { document: object; field: string | null; text: string; referrer: string | null },
        }),
      ),
    enabled,
    placeholderData: keepPreviousData,
  });
