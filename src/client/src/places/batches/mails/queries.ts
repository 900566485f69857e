import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../../api/client';
import { live } from '../../../api/live';

/** Mails, newest first. */
export const mailsQuery = () =>
  queryOptions({
    queryKey: ['mails'],
    queryFn: async () => dataOf(await api.GET('/api/v1/mails')),
  });

/** A mail with its links. */
export const mailQuery = (id: string) =>
  queryOptions({
    queryKey: ['mail', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/mails/{id}', { params: { path: { id } } })),
  });

/** Takes a mail in. */
export const mailUpload = () =>
  mutationOptions({
    mutationFn: async (file: File) =>
      dataOf<Schema['MailMade']>(
        await api.POST('/api/v1/mails', {
          params: { query: { name: file.name } },
          body: file as never,
          bodySerializer: (body: unknown) => body as Blob,
        } as never),
      ),
    meta: { outdates: [mailsQuery().queryKey] },
  });

/** Changes what the links of a mail get. */
export const mailChoose = async (id: string, body: Schema['MailChoices']) =>
  dataOf(await api.PUT('/api/v1/mails/{id}', { params: { path: { id } }, body }));

/** Makes the links of a mail and writes them into it. */
export const mailMake = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/mails/{id}/make', { params: { path: { id } } })),
    meta: { outdates: [mailsQuery().queryKey] },
  });

/** Sends a mail to the inbox for trying it. */
export const mailSend = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/mails/{id}/send', { params: { path: { id } } })),
  });

/** How often a link that waits for its page is asked after, in milliseconds: nothing tells that something did not come. */
const waitingPace = 3_000;

/** The latest trial of a mail's links. */
export const mailTrialQuery = (id: string) =>
  queryOptions({
    queryKey: ['trials', 'of-mail', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/mails/{id}/trial', { params: { path: { id } } })),
    meta: live.meta,
    refetchInterval: (query) =>
      query.state.data?.links.some((l) => l.trial.verdict === 'underway') ? waitingPace : live.refetchInterval,
  });

/** Sends a mail to the inbox with a trial's address for each of its links. */
export const mailTrialStart = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/mails/{id}/trial', { params: { path: { id } } })),
    meta: { outdates: [['trials']] },
  });
