import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api, dataOf, type ComposeAnswer, type ComposeRequest } from '../../api/client';
import { useDebounced } from '../../parts/useDebounced';

/** One link the server is asked to work out. */
export interface Asked {
  key: string;
  request: ComposeRequest;
}

/** Works links out live while one types. */
export function useComposed(links: Asked[]) {
  // What a link is called and where its short link stands changes nothing in it.
  const wanted = JSON.stringify(
    links.map(({ key, request: { title: _t, slug: _s, codeSlug: _c, shortDomain: _d, ...request } }) => [key, request]),
  );
  const asked = useDebounced(wanted, 80);
  const composed = useQuery({
    queryKey: ['compose', asked],
    queryFn: async () => {
      const pairs = JSON.parse(asked) as [string, ComposeRequest][];
      const answer = dataOf(
        await api.POST('/api/v1/links/compose-many', { body: { links: pairs.map(([, request]) => request) } }),
      );
      return new Map(pairs.map(([key], i) => [key, answer.links[i]!]));
    },
    enabled: asked !== '[]',
    placeholderData: keepPreviousData,
    retry: 3,
  });
  const answers = useMemo(
    () => (asked === '[]' ? new Map<string, ComposeAnswer>() : (composed.data ?? new Map<string, ComposeAnswer>())),
    [asked, composed.data],
  );
  // Offline, the question waits and is asked again by itself.
  const error = composed.fetchStatus === 'paused' ? new Error('The connection was lost.') : composed.error;
  return { answers, settled: asked === wanted && composed.fetchStatus === 'idle' && !composed.isError, error };
}
