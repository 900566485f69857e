import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';

/** The least time between two rounds of asking, so that much traffic does not keep the page busy, in milliseconds. */
const pace = 1_500;

/** Live queries are asked anew when traffic changes, and now and then where nothing can be heard of it. */
export const live = { meta: { live: true }, refetchInterval: 60_000 } as const;

/** Asks live queries that are on the screen anew. */
const askAnew = (client: QueryClient) =>
  client.invalidateQueries({ predicate: (query) => query.meta?.live === true }, { cancelRefetch: false });

/** Hears of changed traffic as long as the page can be seen: hidden ones would use up the connections a browser allows. */
export function useLiveTraffic() {
  const client = useQueryClient();
  useEffect(() => {
    let source: EventSource | undefined;
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let asked = 0;

    const hear = () => {
      waiting ??= setTimeout(
        () => {
          waiting = undefined;
          asked = Date.now();
          void askAnew(client);
        },
        Math.max(0, asked + pace - Date.now()),
      );
    };
    const follow = () => {
      source?.close();
      source = undefined;
      if (document.hidden) return;
      source = new EventSource('/api/v1/live');
      source.addEventListener('changed', hear);
    };
    const seen = () => {
      follow();
      if (!document.hidden) hear();
    };
    follow();
    document.addEventListener('visibilitychange', seen);
    return () => {
      document.removeEventListener('visibilitychange', seen);
      clearTimeout(waiting);
      source?.close();
    };
  }, [client]);
}
