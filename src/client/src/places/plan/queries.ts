import { queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';

/** Attributes that campaigns can have. */
export const attributesQuery = () =>
  queryOptions({
    queryKey: ['attributes'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaign-attributes')),
  });

/** The value a campaign would have; `asked` is the request as JSON. */
export const campaignPreviewQuery = (asked: string) =>
  queryOptions({
    queryKey: ['campaign-preview', asked],
    queryFn: async () =>
      dataOf(await api.POST('/api/v1/campaigns/preview', { body: JSON.parse(asked) as Schema['CampaignRequest'] })),
  });

/** A campaign with its plan and results. */
export const campaignQuery = (id: string) =>
  queryOptions({
    queryKey: ['campaign', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns/{id}', { params: { path: { id } } })),
  });

/** Partner pages, newest first. */
export const partnerPagesQuery = () =>
  queryOptions({
    queryKey: ['partner-pages'],
    queryFn: async () => dataOf(await api.GET('/api/v1/partner-pages')),
  });

/** Default values that follow from name, channel and publisher; `asked` is the question as JSON. */
export const placementDefaultsQuery = (asked: string) =>
  queryOptions({
    queryKey: ['placement-defaults', asked],
    queryFn: async () =>
      dataOf(
        await api.GET('/api/v1/placements/defaults', {
          params: { query: JSON.parse(asked) as { name?: string; channel?: string; publisher?: string } },
        }),
      ).standing,
  });
