import { composedQuery } from './queries';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { ComposeAnswer, ComposeRequest } from '../../api/client';
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
    ...composedQuery(asked),
    enabled: asked !== '[]',
    placeholderData: keepPreviousData,
  });
  const answers = useMemo(
    () => (asked === '[]' ? new Map<string, ComposeAnswer>() : (composed.data ?? new Map<string, ComposeAnswer>())),
    [asked, composed.data],
  );
  // Offline, the question waits and is asked again by itself.
  const error = composed.fetchStatus === 'paused' ? new Error('The connection was lost.') : composed.error;
  return { answers, settled: asked === wanted && composed.fetchStatus === 'idle' && !composed.isError, error };
}
