import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { api, dataOf, type Schema } from '../../api/client';

/** Who belongs to the workspace. */
export const membersQuery = () =>
  queryOptions({
    queryKey: ['members'],
    queryFn: async () => dataOf(await api.GET('/api/v1/members')),
  });

const ofMembers = { outdates: [membersQuery().queryKey, ['account']] };

/** Makes a link by which somebody joins; its answer is the only place where it is seen. */
export const memberInvite = () =>
  mutationOptions({
    mutationFn: async (body: Schema['InvitationRequest']) =>
      dataOf(await api.POST('/api/v1/members/invitations', { body })),
    meta: ofMembers,
  });

/** Ends a link before it is used. */
export const invitationRevoke = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/members/invitations/{id}', { params: { path: { id } } })),
    meta: ofMembers,
  });

/** Gives a member another role. */
export const memberChange = (id: string) =>
  mutationOptions({
    mutationFn: async (body: Schema['MemberChange']) =>
      dataOf(await api.PUT('/api/v1/members/{id}', { params: { path: { id } }, body })),
    meta: ofMembers,
  });

/** Takes a member out of the workspace. */
export const memberRemove = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/members/{id}', { params: { path: { id } } })),
    meta: ofMembers,
  });

/** Makes a link by which a member chooses a new password. */
export const passwordReset = (id: string) =>
  mutationOptions({
    mutationFn: async () => dataOf(await api.POST('/api/v1/members/{id}/reset', { params: { path: { id } } })),
    meta: ofMembers,
  });
