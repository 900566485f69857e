import { useQuery } from '@tanstack/react-query';
import { api, dataOf } from './client';

/** Fields of the convention that holds. */
export const useFields = () =>
  useQuery({
    queryKey: ['fields'],
    queryFn: async () => dataOf(await api.GET('/api/v1/convention/fields')),
  });

/** Placements of the workspace. */
export const usePlacements = () =>
  useQuery({
    queryKey: ['placements'],
    queryFn: async () => dataOf(await api.GET('/api/v1/placements')),
  });

/** Campaigns of the workspace. */
export const useCampaigns = () =>
  useQuery({
    queryKey: ['campaigns'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns')),
  });

/** Short domains that links can be made on, the first one first. */
export const useShortDomains = () =>
  useQuery({
    queryKey: ['short-domains'],
    queryFn: async () => dataOf(await api.GET('/api/v1/short-domains')),
    select: (domains) => domains.filter((d) => d.usable),
  });

/** Topics of links, the most used first. */
export const useTopics = () =>
  useQuery({
    queryKey: ['links', 'topics'],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/topics')),
  });
