import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, Refused, type Schema } from '../../api/client';
import { shortDomainsQuery } from '../../api/queries';

/** API keys, newest first. */
export const keysQuery = () =>
  queryOptions({
    queryKey: ['keys'],
    queryFn: async () => dataOf(await api.GET('/api/v1/keys')),
  });

/** How the workspace writes its links. */
export const linkWritingQuery = () =>
  queryOptions({
    queryKey: ['link-writing'],
    queryFn: async () => dataOf(await api.GET('/api/v1/link-writing')),
  });

/** Blocked hosts. */
export const refusedHostsQuery = () =>
  queryOptions({
    queryKey: ['refused-hosts'],
    queryFn: async () => dataOf(await api.GET('/api/v1/refused-hosts')),
  });

/** Hosts people pass through, and hosts that look like it. */
export const passingHostsQuery = () =>
  queryOptions({
    queryKey: ['passing-hosts'],
    queryFn: async () => dataOf(await api.GET('/api/v1/passing-hosts')),
  });

/** How long visits and clicks are kept one by one. */
export const retentionQuery = () =>
  queryOptions({
    queryKey: ['retention'],
    queryFn: async () => dataOf(await api.GET('/api/v1/retention')),
  });

/** Access logs that are read or were, the newest first. */
export const accessLogsQuery = () =>
  queryOptions({
    queryKey: ['access-logs'],
    queryFn: async () => dataOf(await api.GET('/api/v1/imports/access-log')),
  });

/** The server's own limit. */
const mostLogBytes = 1024 ** 3;

/** Sends an access log; reading goes on in the background. */
export const accessLogUpload = () =>
  mutationOptions({
    mutationFn: async ({ file, site, leavesOut }: { file: File; site: string; leavesOut: boolean }) => {
      // Said before anything is sent: a door that shuts in the middle of an upload can't say why.
      if (file.size > mostLogBytes)
        throw new Refused('A log has at most 1 GB. Pack it with gzip, or send it in parts.', 413);
      const form = new FormData();
      form.append('site', site);
      form.append('measuredDays', leavesOut ? 'leaveOut' : 'keep');
      form.append('file', file, file.name);
      return dataOf<Schema['AccessLogAnswer']>(
        await api.POST('/api/v1/imports/access-log', {
          params: { query: { wait: 0 } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        } as never),
      );
    },
    meta: { outdates: [accessLogsQuery().queryKey] },
  });

/** Stops reading a log. */
export const accessLogCancel = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/v1/imports/access-log/{id}', { params: { path: { id } } })),
    meta: { outdates: [accessLogsQuery().queryKey] },
  });

/** Sites that are measured. */
export const sitesQuery = () =>
  queryOptions({
    queryKey: ['sites'],
    queryFn: async () => dataOf(await api.GET('/api/v1/sites')),
  });

/** Makes an API key; its answer is the only place where it is seen. */
export const keyMake = () =>
  mutationOptions({
    mutationFn: async (body: Schema['KeyRequest']) => dataOf(await api.POST('/api/v1/keys', { body })),
    meta: { outdates: [keysQuery().queryKey] },
  });

/** Ends a key for good. */
export const keyRevoke = () =>
  mutationOptions({
    mutationFn: async (id: string) => dataOf(await api.POST('/api/v1/keys/{id}/revoke', { params: { path: { id } } })),
    meta: { outdates: [keysQuery().queryKey] },
  });

/** How links are written shows nearly everywhere. */
export const linkWritingChange = () =>
  mutationOptions({
    mutationFn: async (body: Schema['LinkWriting']) => dataOf(await api.PUT('/api/v1/link-writing', { body })),
    meta: { outdates: [[]] },
  });

/** What blocking a host would stop. */
export const refusedHostCount = () =>
  mutationOptions({
    mutationFn: async (host: string) => dataOf(await api.POST('/api/v1/refused-hosts/count', { body: { host } })),
  });

/** Blocks a host: links that lead there stop. */
export const hostRefuse = () =>
  mutationOptions({
    mutationFn: async (host: string) => dataOf(await api.POST('/api/v1/refused-hosts', { body: { host } })),
    meta: { outdates: [refusedHostsQuery().queryKey, ['links']] },
  });

/** Takes a host off the list. */
export const hostAllow = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/v1/refused-hosts/{id}', { params: { path: { id } } })),
    meta: { outdates: [refusedHostsQuery().queryKey, ['links']] },
  });

/** Counts the visits that listing a host would change. */
export const passingHostCount = () =>
  mutationOptions({
    mutationFn: async (host: string) => dataOf(await api.POST('/api/v1/passing-hosts/count', { body: { host } })),
  });

/** Lists a host that people pass through. */
export const passingHostAdd = () =>
  mutationOptions({
    mutationFn: async (host: string) => dataOf(await api.POST('/api/v1/passing-hosts', { body: { host } })),
    meta: { outdates: [passingHostsQuery().queryKey, ['arrivals']] },
  });

/** Takes a host off the list. */
export const passingHostRemove = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/v1/passing-hosts/{id}', { params: { path: { id } } })),
    meta: { outdates: [passingHostsQuery().queryKey, ['arrivals']] },
  });

/** Counts what another span would delete. */
export const retentionCount = () =>
  mutationOptions({
    mutationFn: async (months: number) => dataOf(await api.POST('/api/v1/retention/count', { body: { months } })),
  });

/** Changes how long visits and clicks are kept one by one. */
export const retentionChange = () =>
  mutationOptions({
    mutationFn: async (months: number) => dataOf(await api.PUT('/api/v1/retention', { body: { months } })),
    meta: { outdates: [retentionQuery().queryKey] },
  });

/** Adds a short domain, not checked yet. */
export const shortDomainAdd = () =>
  mutationOptions({
    mutationFn: async (address: string) => dataOf(await api.POST('/api/v1/short-domains', { body: { address } })),
    meta: { outdates: [shortDomainsQuery().queryKey] },
  });

/** Checks whether a short domain leads here. */
export const shortDomainCheck = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.POST('/api/v1/short-domains/{id}/check', { params: { path: { id } } })),
    meta: { outdates: [shortDomainsQuery().queryKey] },
  });

/** Makes a short domain the default. */
export const shortDomainMakeDefault = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.POST('/api/v1/short-domains/{id}/make-default', { params: { path: { id } } })),
    meta: { outdates: [shortDomainsQuery().queryKey] },
  });

/** Removes a short domain without short links. */
export const shortDomainRemove = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/v1/short-domains/{id}', { params: { path: { id } } })),
    meta: { outdates: [shortDomainsQuery().queryKey] },
  });

/** A site's hosts and style show in what Compose says. */
const ofSites = [sitesQuery().queryKey, ['compose'], ['pages']];

/** Changes a site. */
export const siteChange = (id: string) =>
  mutationOptions({
    mutationFn: async (body: Schema['SiteChange']) =>
      dataOf(await api.PUT('/api/v1/sites/{id}', { params: { path: { id } }, body })),
    meta: { outdates: ofSites },
  });

/** Adds a site. */
export const siteAdd = () =>
  mutationOptions({
    mutationFn: async (body: Schema['SiteChange']) => dataOf(await api.POST('/api/v1/sites', { body })),
    meta: { outdates: ofSites },
  });

/** Ends a site's measuring key and makes another. */
export const siteKeyRenew = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/sites/{id}/key', { params: { path: { id } } })),
    meta: { outdates: ofSites },
  });

/** Removes a site that nothing was measured on. */
export const siteRemove = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/sites/{id}', { params: { path: { id } } })),
    meta: { outdates: ofSites },
  });

/** What counts as a conversion. */
export const conversionKindsQuery = () =>
  queryOptions({
    queryKey: ['conversion-kinds'],
    queryFn: async () => dataOf(await api.GET('/api/v1/conversion-kinds')),
  });

/** Counts what a definition would have found. */
export const conversionKindTry = () =>
  mutationOptions({
    mutationFn: async (body: Schema['ConversionKindRequest']) =>
      dataOf(await api.POST('/api/v1/conversion-kinds/count', { body })),
  });

/** Defines a conversion, or changes one. */
export const conversionKindSave = (id?: string) =>
  mutationOptions({
    mutationFn: async (body: Schema['ConversionKindRequest']) =>
      id
        ? dataOf(await api.PUT('/api/v1/conversion-kinds/{id}', { params: { path: { id } }, body }))
        : dataOf(await api.POST('/api/v1/conversion-kinds', { body })),
    meta: { outdates: [conversionKindsQuery().queryKey, ['arrivals']] },
  });

/** Removes a definition and its conversions. */
export const conversionKindRemove = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/conversion-kinds/{id}', { params: { path: { id } } })),
    meta: { outdates: [conversionKindsQuery().queryKey, ['arrivals']] },
  });

/** Mails the application sends, asked for again while one of them waits. */
export const outgoingMailsQuery = () =>
  queryOptions({
    queryKey: ['outgoing-mails'],
    queryFn: async () => dataOf(await api.GET('/api/v1/outgoing-mails')),
    refetchInterval: ({ state }) => (state.data?.mails.some((mail) => !mail.sentAt && !mail.givenUpAt) ? 2_000 : false),
  });

/** Sends a test mail to oneself. */
export const ownTestMail = () =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/outgoing-mails/test')),
    meta: { outdates: [outgoingMailsQuery().queryKey] },
  });
