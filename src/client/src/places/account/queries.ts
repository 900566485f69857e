import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';

/** One's own sessions. */
export const sessionsQuery = () =>
  queryOptions({
    queryKey: ['sessions'],
    queryFn: async () => dataOf(await api.GET('/api/account/sessions')),
  });

/** Signs in; without a password where the demo offers that. */
export const signInChange = () =>
  mutationOptions({
    mutationFn: async (body: { mail: string; password: string | null }) =>
      dataOf(await api.POST('/api/account/sign-in', { body })),
    meta: { outdates: [['account']] },
  });

/** Asks for a mail with a link for a new password. */
export const passwordForgotten = () =>
  mutationOptions({
    mutationFn: async (mail: string) => dataOf(await api.POST('/api/account/forgotten', { body: { mail } })),
  });

/** What a link that was handed over is for. */
export const invitationQuery = (secret: string) =>
  queryOptions({
    queryKey: ['invitation', secret],
    queryFn: async () => dataOf(await api.POST('/api/account/invitation', { body: { secret } })),
    retry: false,
  });

/** Joins a workspace, or chooses a new password. */
export const invitationUse = () =>
  mutationOptions({
    mutationFn: async (body: Schema['InvitationUse']) =>
      dataOf(await api.POST('/api/account/invitation/use', { body })),
    meta: { outdates: [['account']] },
  });

/** Makes the first owner and their workspace. */
export const firstOwnerChange = () =>
  mutationOptions({
    mutationFn: async (body: Schema['FirstOwner']) => dataOf(await api.POST('/api/account/first-owner', { body })),
    meta: { outdates: [['account']] },
  });

/** Changes what one is called. */
export const nameChange = () =>
  mutationOptions({
    mutationFn: async (body: { name: string }) => dataOf(await api.PUT('/api/account/name', { body })),
    meta: { outdates: [['account'], ['members']] },
  });

/** Changes one’s password, which ends one’s other sessions. */
export const passwordChange = () =>
  mutationOptions({
    mutationFn: async (body: { current: string; next: string }) =>
      dataOf(await api.POST('/api/account/password', { body })),
    meta: { outdates: [sessionsQuery().queryKey] },
  });

/** Which mails one gets. */
export const ownMailsQuery = () =>
  queryOptions({
    queryKey: ['own-mails'],
    queryFn: async () => dataOf(await api.GET('/api/account/mails')),
  });

/** Has mails of a kind sent to oneself, or none any more. */
export const ownMailChoice = () =>
  mutationOptions({
    mutationFn: async (body: { kind: string; wanted: boolean }) =>
      dataOf(await api.PUT('/api/account/mails', { body })),
    meta: { outdates: [ownMailsQuery().queryKey] },
  });

/** Ends a session. */
export const sessionEnd = () =>
  mutationOptions({
    mutationFn: async (id: string) =>
      dataOf(await api.DELETE('/api/account/sessions/{id}', { params: { path: { id } } })),
    meta: { outdates: [sessionsQuery().queryKey] },
  });

/** Ends every session but this one. */
export const otherSessionsEnd = () =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/account/sessions/end-others')),
    meta: { outdates: [sessionsQuery().queryKey] },
  });

/** Ends this session. */
export const signOut = () => api.POST('/api/account/sign-out');
