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

/** A client whose changes name what they make out of date; that is asked anew before a change counts as done. */
export function newQueryClient(queries: Partial<QueryObserverOptions>): QueryClient {
  const client: QueryClient = new QueryClient({
    defaultOptions: { queries },
    mutationCache: new MutationCache({
      onSuccess: (_data, _variables, _result, change) =>
        Promise.all((change.meta?.outdates ?? []).map((queryKey) => client.invalidateQueries({ queryKey }))),
    }),
  });
  return client;
}
