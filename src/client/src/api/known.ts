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
