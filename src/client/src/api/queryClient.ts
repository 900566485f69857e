import { MutationCache, QueryClient, type QueryKey, type QueryObserverOptions } from '@tanstack/react-query';

declare module '@tanstack/react-query' {
  interface Register {
    mutationMeta: {
      /** What is out of date once it is done: keys of queries, or what these begin with. */
      outdates?: readonly QueryKey[];
      [more: string]: unknown;
    };
  }
}

/**
 * Asks anew what was out of date at this moment. A question that is under way and has no answer yet is not asked again by the
 * library: what was asked before the change would count as what holds after it. So it is asked once more when its answer is there.
 */
export async function outdate(client: QueryClient, queryKey: QueryKey): Promise<void> {
  const early = client
    .getQueryCache()
    .findAll({ queryKey, fetchStatus: 'fetching' })
    .filter((query) => query.state.data === undefined);
  await Promise.all([
    client.invalidateQueries({ queryKey }),
    ...early.map(async (query) => {
      await query.promise?.catch(() => {});
      await client.invalidateQueries({ queryKey: query.queryKey, exact: true });
    }),
  ]);
}

/** A client whose changes name what they make out of date; that is asked anew before a change counts as done. */
export function newQueryClient(queries: Partial<QueryObserverOptions>): QueryClient {
  const client: QueryClient = new QueryClient({
    defaultOptions: { queries },
    mutationCache: new MutationCache({
      onSuccess: (_data, _variables, _result, change) =>
        Promise.all((change.meta?.outdates ?? []).map((queryKey) => outdate(client, queryKey))),
    }),
  });
  return client;
}
