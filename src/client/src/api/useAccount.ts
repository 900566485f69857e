import { useQuery } from '@tanstack/react-query';
import { api, dataOf, rememberToken } from './client';

/** Who is signed in; also fetches the token that changes are sent with. */
export function useAccount() {
  return useQuery({
    queryKey: ['account'],
    queryFn: async () => {
      const state = dataOf(await api.GET('/api/account'));
      rememberToken(state.token);
      return state;
    },
    staleTime: Infinity,
  });
}
