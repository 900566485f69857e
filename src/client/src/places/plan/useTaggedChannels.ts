import { useQuery } from '@tanstack/react-query';
import type { Schema } from '../../api/client';
import { conventionQuery } from '../../api/queries';

type Channel = NonNullable<Schema['ConventionDocument']['channels']>[number];

/** A channel that links can be tagged for: told by their tags or their printed code, not by where an untagged visit came from. */
export const isTagged = ({ conditions }: Pick<Channel, 'conditions'>) =>
  (conditions ?? []).some(
    ({ subject, test }) => test !== 'empty' && ['source', 'medium', 'campaign', 'printed'].includes(subject ?? ''),
  );

/** Names of the channels a placement can belong to, in the order of the convention. */
export function useTaggedChannels() {
  return useQuery({
    ...conventionQuery(),
    select: ({ document }) => (document.channels ?? []).filter(isTagged).map((c) => c.name!),
  });
}
