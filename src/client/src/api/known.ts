import { useQuery } from '@tanstack/react-query';
import { campaignsQuery, fieldsQuery, placementsQuery, shortDomainsQuery, topicsQuery } from './queries';

/** Fields of the convention that holds. */
export const useFields = () => useQuery(fieldsQuery());

/** Placements of the workspace. */
export const usePlacements = () => useQuery(placementsQuery());

/** Campaigns of the workspace. */
export const useCampaigns = () => useQuery(campaignsQuery());

/** Short domains that links can be made on, the first one first. */
export const useShortDomains = () =>
  useQuery({ ...shortDomainsQuery(), select: (domains) => domains.filter((d) => d.usable) });

/** Topics of links, the most used first. */
export const useTopics = () => useQuery(topicsQuery());
