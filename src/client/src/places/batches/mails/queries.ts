import { queryOptions } from '@tanstack/react-query';
import { api, dataOf } from '../../../api/client';

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
